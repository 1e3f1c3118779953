/** What a device is called until somebody calls it otherwise. */
export const usualName = (): string =>
  /Android|iPhone|Mobile/.test(navigator.userAgent) || window.innerWidth < 600 ? 'Phone' : 'Laptop';
