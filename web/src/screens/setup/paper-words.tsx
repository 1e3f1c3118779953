import type { Pricer } from '@half-penny/core/billing';
import { documentLanguages, Fault, type DocumentLanguage } from '@half-penny/core/model';
import { catalogues, placesIn, type Message } from '@half-penny/documents/words';
import { useState } from 'react';
import { useSettingChange } from '../../data/setting-change';
import { SavedField } from '../../parts/field';
import { languageNames } from '../../parts/languages';
import { Section } from '../../parts/page';
import { SelectField } from '../../parts/select';

const messages = Object.keys(catalogues.en) as Message[];

/** What invoices, quotes and their pages say, in each language, in the studio's own words where it has some. */
export function PaperWords({ pricer }: { pricer: Pricer }) {
  const change = useSettingChange();
  const { wording } = pricer.book.workspace;
  const [language, setLanguage] = useState<DocumentLanguage>('en');
  const [message, setMessage] = useState<Message>('invoice');
  const usual = catalogues[language][message];
  const own = wording?.[language] ?? {};
  const save = async (typed: string) => {
    const text = typed.trim();
    if (text !== '' && text !== usual) checkPlaces(text, usual);
    return change('wording', (now) => {
      const { [message]: _before, ...others } = now?.[language] ?? {};
      const mine = text === '' || text === usual ? others : { ...others, [message]: text };
      return { ...now, [language]: mine };
    });
  };
  const changed = new Set(Object.keys(own));
  return (
    <Section title="Words on papers">
      <div className="grid max-w-3xl gap-3 border-t border-ink px-2 pt-3 md:grid-cols-2">
        <SelectField
          label="Word or sentence"
          value={message}
          options={messages.map((each) => [each, `${changed.has(each) ? '• ' : ''}${catalogues.en[each]}`] as const)}
          onPick={(picked) => setMessage(picked as Message)}
        />
        <SelectField
          label="In"
          value={language}
          options={documentLanguages.map((each) => [each, languageNames[each]] as const)}
          onPick={(picked) => setLanguage(picked as DocumentLanguage)}
        />
        <div key={`${language} ${message}`} className="md:col-span-2">
          <SavedField
            label="It says"
            value={own[message] ?? usual}
            placeholder={usual}
            save={save}
            hint={
              own[message] === undefined
                ? 'As it comes with Half Penny. Papers that were issued stay as they are.'
                : 'Yours. Empty it to have it as it comes with Half Penny.'
            }
          />
        </div>
      </div>
    </Section>
  );
}

/** @throws Fault where a text lacks a place that is filled in, or has one that nothing fills */
function checkPlaces(text: string, usual: string): void {
  const wanted = placesIn(usual);
  const given = placesIn(text);
  const lacking = wanted.find((place) => !given.includes(place));
  if (lacking) throw new Fault('lacking', `{{${lacking}}} is filled in and has to stand in it.`);
  const strange = given.find((place) => !wanted.includes(place));
  if (strange) throw new Fault('unknown', `Nothing is known of {{${strange}}} here.`);
}
