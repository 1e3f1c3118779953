import { documentLanguages, letterKinds } from '@half-penny/core/model';
import { fault } from '@half-penny/core/testing';
import { describe, expect, it } from 'vitest';
import { checkTemplate, fillTemplate, letterCatalogues, letterWords, templateFor, type LetterWord } from './letters';

const wordsIn = (text: string) => new Set([...text.matchAll(/\{(\w+)\}/g)].map(([, word]) => word!));

describe('letters that come with the program', () => {
  it.each(documentLanguages)('say in %s what they say in English, and name nothing unknown', (language) => {
    for (const kind of letterKinds) {
      const own = letterCatalogues[language][kind];
      const english = letterCatalogues.en[kind];
      expect(() => checkTemplate(own)).not.toThrow();
      expect(wordsIn(own.subject + own.body), kind).toEqual(wordsIn(english.subject + english.body));
      if (language !== 'en') expect(own.body).not.toBe(english.body);
    }
  });

  it('are filled in whole', () => {
    const values = Object.fromEntries(Object.keys(letterWords).map((word) => [word, `<${word}>`])) as Record<
      LetterWord,
      string
    >;
    for (const language of documentLanguages)
      for (const kind of letterKinds) {
        const { subject, body } = fillTemplate(letterCatalogues[language][kind], values);
        expect(subject + body).not.toMatch(/[{}]/);
      }
  });
});

describe('a letter of the studio’s own', () => {
  it('takes the place of ours in its language alone', () => {
    const own = { subject: 'Your bill', body: 'Here it is.' };
    const workspace = { letters: { fr: { invoice: own } } };
    expect(templateFor(workspace, 'fr', 'invoice')).toEqual(own);
    expect(templateFor(workspace, 'de', 'invoice')).toEqual(letterCatalogues.de.invoice);
    expect(templateFor({}, 'fr', 'quote')).toEqual(letterCatalogues.fr.quote);
  });

  it('leaves out what there is nothing for, breaks no subject, and fills nothing in twice', () => {
    const template = { subject: 'For {client}\n{number}', body: 'A\n\n{claim}\n\nB {other} {client}' };
    expect(fillTemplate(template, { client: '{number}', number: 'SL-1' })).toEqual({
      subject: 'For {number} SL-1',
      body: 'A\n\nB {other} {number}',
    });
  });

  it('is refused with a word that there is not', () => {
    expect(() => checkTemplate({ subject: 'For {clients}', body: '' })).toThrow(fault('unknown-name', 'subject'));
    expect(() => checkTemplate({ subject: 'x', body: '{sum}' })).toThrow(/There is no \{sum\}/);
  });
});
