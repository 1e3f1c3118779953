/** Where this browser keeps the secret of the local server. */
export const KEPT = 'half-penny.server';
export const LETTERS = /^[a-z]{8}$/;

/** Whether the secret was ever told to this page. */
export const knowsSecret = (): boolean => localStorage.getItem(KEPT) !== null;

/** Keeps the secret that the printed address carries after its #, and takes it out of the address. */
export function keepSecret(): void {
  const given = location.hash.slice(1);
  if (!LETTERS.test(given)) return;
  localStorage.setItem(KEPT, given);
  history.replaceState(history.state, '', location.pathname + location.search);
}
