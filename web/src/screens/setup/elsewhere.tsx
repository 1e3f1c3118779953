import type { Pricer } from '@half-penny/core/billing';
import { Fault, type OutsideKind, type OutsideSource } from '@half-penny/core/model';
import { useAll } from '../../data/read';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { Connect } from '../../parts/connect';
import { Loading, Section } from '../../parts/page';
import { FollowedList } from './followed-list';

/** Lists that others keep and the studio follows: tasks with their hours, and clients. */
export function Elsewhere({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const lists = useAll('outsideLists');
  if (!lists) return <Loading />;
  return (
    <>
      {lists
        .toSorted((a, b) => a.name.localeCompare(b.name))
        .map((list) => (
          <FollowedList key={list.id} {...{ pricer, list }} />
        ))}
      <Section title="A list to follow">
        <div className="border-t border-ink px-2 pt-3">
          <p className="mb-3 max-w-2xl text-soft">
            Clients often keep what is to be done in a program of theirs. Its tasks are followed here: say once which
            project they belong to, and they can be recorded on like any other. What is closed there is not offered any
            more, and the hours can go back. A list of clients is followed the same way.
          </p>
          {lists.some(({ via }) => via === 'service') && <Connect onConnected={() => undefined} />}
          <AddLine
            label="Follow a list"
            button="Follow the list"
            fields={[
              {
                key: 'name',
                label: 'What it is called',
                placeholder: 'Technical office',
                className: 'min-w-44 flex-1',
              },
              {
                key: 'kind',
                label: 'It lists',
                className: 'w-36',
                start: 'tasks',
                options: [
                  ['tasks', 'tasks'],
                  ['clients', 'clients'],
                ],
              },
              {
                key: 'via',
                label: 'It comes from',
                className: 'w-72',
                start: 'service',
                options: [
                  ['service', 'the simulated tracker of the local server'],
                  ['file', 'files (VTODO, CSV, XLSX)'],
                ],
              },
            ]}
            add={async ({ name = '', kind, via }) => {
              if (name.trim() === '') throw new Fault('empty', 'Say what the list is called.', 'name');
              await run('outside.follow', {
                name: name.trim(),
                kind: kind as OutsideKind,
                via: via as OutsideSource,
              });
            }}
          />
        </div>
      </Section>
    </>
  );
}
