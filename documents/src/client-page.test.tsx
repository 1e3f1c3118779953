import { pageOfQuote } from '@half-penny/core/client-page';
import { clientPage, frozenInvoice, frozenLine } from '@half-penny/core/testing';
import { documentLanguages } from '@half-penny/core/model';
import { describe, expect, it } from 'vitest';
import { clientPageHtml } from './client-page';

const parts = { logo: '', receipts: [], fonts: { 400: '', 700: '' } };

describe('a client’s page', () => {
  it('asks for nothing from elsewhere, and lets no script run but its own', () => {
    const html = clientPageHtml(clientPage({ pay: { at: 'https://pay.example/1', amount: 14_814 } }), parts);
    expect(html).toMatch(/default-src 'none'.*script-src 'sha256-[\w+/]{43}='/);
    expect(html.match(/(?:src|href)="(?!data:)[^"]*"/g)).toEqual(['href="https://pay.example/1"']);
    expect(html).not.toMatch(/\burl\((?!data:)/);
  });

  it('shows what was typed as text, wherever it stands', () => {
    const bad = '</script><img src=x onerror=alert(1)>';
    const frozen = frozenInvoice([frozenLine(100, { text: bad })], []);
    const html = clientPageHtml(clientPage({ frozen: { ...frozen, note: bad } }), parts);
    expect(html).not.toContain('<img src=x');
    expect(html.match(/<\/script>/g)).toHaveLength(2);
  });

  it('is in the client’s language', () => {
    const says = documentLanguages.map((language) => {
      const frozen = { ...clientPage().frozen, language };
      return /id="unchecked"[^>]*>([^<]+)/.exec(clientPageHtml(clientPage({ frozen }), parts))![1];
    });
    expect(new Set(says).size).toBe(documentLanguages.length);
  });

  it('can be answered where it is a quote’s that bears a seal', () => {
    expect(pageOfQuote({ versions: [{ frozen: clientPage().frozen, lines: [] }] } as never, '2026-11-12')).toBeNull();
    const choices = [{ key: 'a', text: 'Rig', amount: 12_345, optional: false }];
    const quote = { id: 'q', digest: '', seal: 'ab'.repeat(32), choices };
    const html = clientPageHtml(clientPage({ quote }), parts);
    expect(html).toContain('value="accepted"');
    expect(html).toMatch(/name="line"[^>]*value="a"/);
  });
});
