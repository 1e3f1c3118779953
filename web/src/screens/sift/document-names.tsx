import { dayOf, type Zone } from '@half-penny/core/time';
import { useTrailChanges } from '../../data/trail-changes';
import { showShortDay } from '../../parts/days';
import { Section } from '../../parts/page';
import { Select } from '../../parts/select';
import { showTime } from '../../parts/spans';
import type { PlacedDocument, UnclearTitle } from '../../workers/capture';
import { minutesOf } from './evidence';
import { Time } from './time';

/** The names that a document had before. */
export function OtherNames({ document: { file, files }, zone }: { document: PlacedDocument; zone: Zone }) {
  return (
    <details className="text-xs text-soft">
      <summary className="cursor-pointer">
        also under {files.length - 1 === 1 ? 'another name' : `${files.length - 1} other names`}
      </summary>
      <ul>
        {files
          .filter((each) => each.file !== file)
          .map((each) => (
            <li key={each.file} className="[overflow-wrap:anywhere]">
              {each.file}, {showShortDay(dayOf(each.first, zone))} {showTime(each.first, zone)},{' '}
              {minutesOf(each.inView)}
            </li>
          ))}
      </ul>
    </details>
  );
}

const FIRST_TITLES = 12;

/** Windows whose title may mean several files: the person says which. */
export function UnclearTitles({ unclear }: { unclear: readonly UnclearTitle[] }) {
  const change = useTrailChanges();
  return (
    <Section title="Which file is it?">
      <p className="mb-2 text-sm text-soft">
        More than one file fits these titles. What you say holds wherever the title comes.
      </p>
      <ul className="max-w-3xl text-sm">
        {unclear.slice(0, FIRST_TITLES).map(({ title, files, chosen, seen }) => (
          <li key={title} className="flex flex-wrap items-center justify-between gap-3 border-b border-rule py-1">
            <span className="written min-w-0 flex-1 [overflow-wrap:anywhere]">{title}</span>
            <Time ms={seen} />
            <Select
              name={`File of ${title}`}
              look="quiet"
              value={chosen ?? ''}
              onPick={(file) =>
                void change(file ? 'File said' : 'File left open', {
                  meant: file ? { put: [{ title, file }] } : { remove: [title] },
                })
              }
              options={[['', 'not said'], ...files.map((file) => [file, file] as const)]}
            />
          </li>
        ))}
      </ul>
    </Section>
  );
}
