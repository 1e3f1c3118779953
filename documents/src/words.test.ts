import { frozenInvoice, frozenLine, frozenTax } from '@half-penny/core/testing';
import { documentLanguages } from '@half-penny/core/model';
import { describe, expect, it } from 'vitest';
import { invoiceView } from './invoice-view';
import { catalogues, placesIn, wordsIn, type Message } from './words';

const messages = Object.keys(catalogues.en) as Message[];

describe('catalogues', () => {
  it.each(documentLanguages)('%s says every message, with what stands in it, and none twice in English', (language) => {
    const own = catalogues[language];
    expect(Object.keys(own)).toEqual(messages);
    for (const message of messages) {
      expect(own[message].trim(), message).not.toBe('');
      expect(placesIn(own[message]), message).toEqual(placesIn(catalogues.en[message]));
    }
  });

  it('are written with the studio’s own wording where there is some, by count too', () => {
    const t = wordsIn({
      language: 'de',
      wording: { invoice: 'Honorarnote', receipts_one: 'Ein Beleg ({{count}}).', net: ' ' },
    });
    expect([t('invoice'), t('net'), t('quote')]).toEqual(['Honorarnote', 'Netto', 'Angebot']);
    expect(t('receipts', { count: 1 })).toBe('Ein Beleg (1).');
    expect(t('receipts', { count: 3 })).toContain('3 Belege');
    expect(wordsIn({})('receipts', { count: 1 })).toBe('1 receipt follows, marked with its line.');
  });

  it('write text, never markup, and nothing of what is put into it twice', () => {
    expect(wordsIn({})('attention', { name: '<b>{{day}} & $t(net)</b>' })).toContain('<b>');
    expect(wordsIn({})('why', { reason: '$t(net)' })).toBe('Why: $t(net)');
  });
});

describe('an invoice in another language', () => {
  it('says nothing in English', () => {
    const vat = frozenTax('vat', '20', 'S');
    const invoice = (language: 'en' | 'fr') =>
      frozenInvoice([frozenLine(10_000, { discount: '10', gross: 11_111 })], [vat], {
        language,
        datesIn: language === 'fr' ? 'fr-FR' : 'en-GB',
        numberStyle: language === 'fr' ? '1 234,50' : '1,234.50',
        period: { from: '2026-10-01', to: '2026-10-31' },
        purchaseOrder: '4711',
      });
    const [french, english] = [invoiceView(invoice('fr')), invoiceView(invoice('en'))];
    expect(french.facts).toEqual([
      ['Facture', 'SL-0001'],
      ['Date', '1 novembre 2026'],
      ['Échéance', '1 décembre 2026'],
      ['Votre commande', '4711'],
      ['Période', '1–31 octobre 2026'],
    ]);
    expect(french.due).toMatchObject({
      label: 'À payer',
      amount: expect.stringContaining('120,00'),
      by: 'avant le 1 décembre 2026',
    });
    for (const [key, label] of Object.entries(french.labels)) {
      if (key !== 'description' && label === english.labels[key as keyof typeof english.labels])
        expect(['Total']).toContain(label);
    }
    expect(french.totals.map((row) => row.label)).toEqual([
      'Total HT',
      expect.stringContaining(' sur '),
      'À payer, GBP',
    ]);
  });
});
