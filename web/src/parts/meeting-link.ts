// What a QR code says to a device that is to be met.

/**
 * A link that opens Half Penny with the words filled in; where this one is served on this machine alone, which no other device reaches,
 * the words themselves, to be pasted there.
 */
export const meetingLink = (relay: string, words: readonly string[], origin: string): string =>
  /\/\/(127\.0\.0\.1|localhost)(:|$)/.test(origin)
    ? `${relay} ${words.join(' ')}`
    : `${origin}/start#meet=${encodeURIComponent(relay)}&words=${words.join('-')}`;

/** The link that this page was opened by, where it was one of those. */
export const scanned = (): string => (location.hash.startsWith('#meet=') ? location.href : '');

/** What is in a link or a text of that kind; each empty where it is not. */
export function meetingIn(text: string): { relay: string; words: string } {
  const link = /#meet=([^&\s]+)&words=([a-z-]+)/.exec(text);
  if (link) return { relay: safely(link[1]!), words: link[2]!.replaceAll('-', ' ') };
  const relay = /https?:\/\/\S+/.exec(text)?.[0] ?? '';
  return { relay, words: text.replace(relay, '').trim() };
}

function safely(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return '';
  }
}
