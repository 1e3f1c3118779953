/** Languages that documents are written in (ISO 639-1). */
export const documentLanguages = ['en', 'fr', 'de', 'es', 'it', 'nl'] as const;
export type DocumentLanguage = (typeof documentLanguages)[number];
