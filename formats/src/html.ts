const SIGNS: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };

/** Text as it stands in HTML, within elements and quoted attributes. */
export const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => SIGNS[sign]!);

/** The same with its lines as they were broken. */
export const lines = (text: string): string => escaped(text).replaceAll('\n', '<br>');
