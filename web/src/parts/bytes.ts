/** Bytes for people: "12 MB", "1.4 GB". */
export const megabytes = (bytes: number): string =>
  bytes >= 1e9
    ? `${Math.round(bytes / 1e8) / 10} GB`
    : bytes >= 1e6 || bytes === 0
      ? `${Math.round(bytes / 1e6).toLocaleString('en-GB')} MB`
      : `${Math.max(1, Math.round(bytes / 1e3))} kB`;
