import { Fault, type DocumentLanguage, type LetterKind, type Template, type Workspace } from '@half-penny/core/model';
import { de } from './de';
import { en } from './en';
import { es } from './es';
import { fr } from './fr';
import { it } from './it';
import { nl } from './nl';

/** A letter for each thing that one is written about. */
export type Letters = Record<LetterKind, Template>;

export const letterCatalogues: Readonly<Record<DocumentLanguage, Letters>> = { en, fr, de, es, it, nl };

/** Words that a letter may have in braces, with what each stands for. */
export const letterWords = {
  client: 'the client’s name',
  contact: 'who it is for there, or the client',
  studio: 'the studio’s name',
  member: 'who writes it',
  number: 'the number of the invoice or quote',
  title: 'what a quote is for, or a report is called',
  amount: 'what it comes to',
  owed: 'what is still open',
  due: 'the day it is due, or holds until',
  late: 'how many days it is late',
  period: 'the week or billing period that is to be handed in',
  missing: 'what is missing of it',
  claim: 'interest and the fixed sum by law, where they may be claimed',
} as const;
export type LetterWord = keyof typeof letterWords;

/** The studio's own letter where it has one, else ours. */
export const templateFor = (
  { letters }: Pick<Workspace, 'letters'>,
  language: DocumentLanguage,
  kind: LetterKind,
): Template => letters?.[language]?.[kind] ?? letterCatalogues[language][kind];

const IN_BRACES = /\{(\w+)\}/g;

/** @throws Fault that names a word in braces that there is not */
export function checkTemplate({ subject, body }: Template): void {
  for (const [path, text] of Object.entries({ subject, body })) {
    const strange = [...text.matchAll(IN_BRACES)]
      .map(([, word]) => word!)
      .find((word) => !Object.hasOwn(letterWords, word));
    if (strange === undefined) continue;
    const known = Object.keys(letterWords).map((word) => `{${word}}`);
    throw new Fault('unknown-name', `There is no {${strange}}. These are known: ${known.join(', ')}.`, path);
  }
}

/** A letter with its words filled in; what has none is left out, with the empty lines that it leaves. */
export function fillTemplate(
  { subject, body }: Template,
  values: Readonly<Partial<Record<LetterWord, string>>>,
): Template {
  const fill = (text: string) =>
    text.replace(IN_BRACES, (whole, word: string) =>
      Object.hasOwn(letterWords, word) ? (values[word as LetterWord] ?? '') : whole,
    );
  return {
    subject: fill(subject).replace(/\s+/g, ' ').trim(),
    body: fill(body)
      .replace(/\n{3,}/g, '\n\n')
      .trim(),
  };
}
