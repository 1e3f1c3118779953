import { Font } from '@react-pdf/renderer';

const EMOJI_PARTS = 11;

/** The font files of documents by family and weight. Letters that the first does not have are taken from the next. */
export const fontFiles: Record<string, Record<number, string>> = {
  Latin: {
    400: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff',
    700: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff',
  },
  'Latin extended': {
    400: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-400-normal.woff',
    700: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal.woff',
  },
  Hebrew: { 400: '@fontsource/noto-sans-hebrew/files/noto-sans-hebrew-hebrew-400-normal.woff' },
  Arabic: { 400: '@fontsource/noto-sans-arabic/files/noto-sans-arabic-arabic-400-normal.woff' },
  ...Object.fromEntries(
    Array.from({ length: EMOJI_PARTS }, (_, part) => [
      `Emoji ${part}`,
      { 400: `@fontsource/noto-emoji/files/noto-emoji-${part}-400-normal.woff` },
    ]),
  ),
};

/** Faces of the Swiss payment part, which wants one of a few: this is drawn as Liberation Sans is. */
const slipFiles: Record<string, Record<number, string>> = {
  'Payment part': {
    400: '@fontsource/arimo/files/arimo-latin-400-normal.woff',
    700: '@fontsource/arimo/files/arimo-latin-700-normal.woff',
  },
  'Payment part extended': {
    400: '@fontsource/arimo/files/arimo-latin-ext-400-normal.woff',
    700: '@fontsource/arimo/files/arimo-latin-ext-700-normal.woff',
  },
};
export const slipFace = Object.keys(slipFiles) as unknown as string;

/** The families a text needs, first to last; those of scripts it does not use are never loaded. Emoji are drawn in ink. */
export function fontStackFor(text: string): string {
  const needed = (family: string) => {
    if (family === 'Hebrew') return /\p{Script=Hebrew}/u.test(text);
    if (family === 'Arabic') return /\p{Script=Arabic}/u.test(text);
    if (family.startsWith('Emoji')) return /\p{Extended_Pictographic}/u.test(text);
    return true;
  };
  // The renderer takes a list of families, each asked for what the ones before it lack; its types know of one alone.
  return Object.keys(fontFiles).filter(needed) as unknown as string;
}

/**
 * Makes the fonts known to the renderer.
 *
 * @param locate where a font file of a package is: an address in the browser, a path elsewhere
 */
export function registerFonts(locate: (file: string) => string): void {
  for (const [family, weights] of Object.entries({ ...fontFiles, ...slipFiles })) {
    const files = Object.entries(weights);
    // A family without a bold one lends its regular for both.
    const fonts = [400, 700].map((fontWeight) => ({
      fontWeight,
      src: locate((files.find(([weight]) => Number(weight) === fontWeight) ?? files[0]!)[1]),
    }));
    Font.register({ family, fonts });
  }
  // Words are broken only where they are longer than their column.
  Font.registerHyphenationCallback((word) => (word.length > 30 ? (word.match(/.{1,20}/gsu) ?? [word]) : [word]));
}
