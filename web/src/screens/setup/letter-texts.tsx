import type { Pricer } from '@half-penny/core/billing';
import {
  documentLanguages,
  letterKinds,
  type DocumentLanguage,
  type LetterKind,
  type Template,
} from '@half-penny/core/model';
import { checkTemplate, letterCatalogues, letterWords, templateFor } from '@half-penny/documents/letters';
import { useState } from 'react';
import { useSettingChange } from '../../data/setting-change';
import { Button } from '../../parts/button';
import { SavedField } from '../../parts/field';
import { languageNames } from '../../parts/languages';
import { Section } from '../../parts/page';
import { SelectField } from '../../parts/select';

const kindNames: Record<LetterKind, string> = {
  invoice: 'With an invoice',
  'credit note': 'With a credit note',
  quote: 'With a quote',
  reminder: 'First reminder',
  'second reminder': 'Second reminder',
  'last reminder': 'Last reminder',
  statement: 'With a statement of account',
  report: 'With a report',
  'hand in': 'To a member, whose week is late',
};

/** What letters say, in each language, in the studio's own words where it has some. */
export function LetterTexts({ pricer }: { pricer: Pricer }) {
  const change = useSettingChange();
  const { workspace } = pricer.book;
  const [language, setLanguage] = useState<DocumentLanguage>('en');
  const [kind, setKind] = useState<LetterKind>('invoice');
  const template = templateFor(workspace, language, kind);
  const own = workspace.letters?.[language]?.[kind] !== undefined;
  const save = async (changed: Partial<Template> | null) => {
    if (changed) checkTemplate({ ...template, ...changed });
    return change('letters', (now) => {
      const { [kind]: before, ...others } = now?.[language] ?? {};
      const next = changed && { ...template, ...before, ...changed };
      return { ...now, [language]: next ? { ...others, [kind]: next } : others };
    });
  };
  return (
    <Section
      title="Letters"
      actions={own && <Button onClick={() => void save(null)}>As it comes with Half Penny</Button>}
    >
      <div className="max-w-3xl border-t border-ink px-2 pt-3">
        <div className="mb-3 grid gap-3 md:grid-cols-2">
          <SelectField
            label="Letter"
            value={kind}
            options={letterKinds.map((each) => [each, kindNames[each]] as const)}
            onPick={(picked) => setKind(picked as LetterKind)}
          />
          <SelectField
            label="In"
            value={language}
            options={documentLanguages.map((each) => [each, languageNames[each]] as const)}
            onPick={(picked) => setLanguage(picked as DocumentLanguage)}
          />
        </div>
        <div key={`${kind} ${language} ${String(own)}`} className="flex flex-col gap-3">
          <SavedField label="Subject" value={template.subject} save={(subject) => save({ subject })} />
          <SavedField label="Letter text" lines={9} value={template.body} save={(body) => save({ body })} />
        </div>
        <details className="mt-3 text-sm">
          <summary className="cursor-pointer text-time">Words that are filled in</summary>
          <dl className="mt-2 grid grid-cols-[7rem_1fr] gap-y-0.5">
            {Object.entries(letterWords).map(([word, means]) => (
              <div key={word} className="contents">
                <dt className="font-mono text-time">{`{${word}}`}</dt>
                <dd className="text-soft">{means}</dd>
              </div>
            ))}
          </dl>
        </details>
        {!own && kind in letterCatalogues[language] && (
          <p className="mt-2 text-xs text-soft">As it comes with Half Penny; what you change here is yours.</p>
        )}
      </div>
    </Section>
  );
}
