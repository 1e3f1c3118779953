import type { DocumentLanguage } from '@half-penny/core/model';

/** What languages are called. */
export const languageNames: Record<DocumentLanguage, string> = {
  en: 'English',
  fr: 'French',
  de: 'German',
  es: 'Spanish',
  it: 'Italian',
  nl: 'Dutch',
};
