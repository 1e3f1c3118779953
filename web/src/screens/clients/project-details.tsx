import { contactsOf, type Pricer } from '@half-penny/core/billing';
import {
  projectColours,
  projectKinds,
  readTags,
  showTags,
  tagsOf,
  type Project,
  type ProjectKind,
} from '@half-penny/core/model';
import { inStyle, plainAmount } from '@half-penny/core/money';
import { useChanges } from '../../data/session';
import { SavedField } from '../../parts/field';
import { PlaceList } from '../../parts/place-list';
import { SavedSelect } from '../../parts/select';
import { Section } from '../../parts/page';
import { OwnRounding } from '../../parts/rounding-fields';
import { stagesInOrder } from '../../parts/stage-choice';
import { Swatch } from '../../parts/swatch';
import { Ticks } from '../../parts/ticks';
import { readMoney } from './budgets';

const KIND_HINTS: Record<ProjectKind, string> = {
  hourly: 'Its hours are invoiced at their rates.',
  'fixed price': 'A price for the whole; its hours are not invoiced by the hour. Extras can be an hourly part.',
  'cost-plus': 'Hours at cost with a markup, costs with theirs: set the markups on its rate card.',
  internal: 'Never invoiced.',
};

/** What a project is: kind, price, where it stands, whose it is. */
export function ProjectDetails({ pricer, project }: { pricer: Pricer; project: Project }) {
  const { run, attempt } = useChanges();
  const client = pricer.clientOf(project.id);
  const currency = client?.currency ?? pricer.book.workspace.currency;
  const save = (fields: Partial<Omit<Project, 'id' | 'parentId' | 'order'>>) =>
    run('project.edit', { id: project.id, ...fields });
  const below = new Set(pricer.tree.downFrom(project.id).map((each) => each.id));
  const homes = pricer.book.projects
    .filter((each) => !below.has(each.id) && each.clientId === project.clientId)
    .map((each) => [each.id, pricer.tree.pathOf(each.id)] as const);
  const contracts = pricer.book.contracts.filter((contract) => contract.clientId === project.clientId);
  const inherited = pricer.tree.contractOf(project.id);
  return (
    <>
      <Section title="Details">
        <div className="grid gap-4 border-t border-ink px-2 pt-3 md:grid-cols-2">
          <SavedField label="Name" value={project.name} save={(name) => save({ name })} />
          <SavedField label="Job number" value={project.jobNumber} save={(jobNumber) => save({ jobNumber })} />
          {client && (
            <SavedSelect
              label="Kind"
              hint={KIND_HINTS[project.kind]}
              value={project.kind}
              options={projectKinds.map((kind) => [kind, kind] as const)}
              save={(kind) => save({ kind: kind as ProjectKind })}
            />
          )}
          {project.kind === 'fixed price' && (
            <SavedField
              label={`Fixed price, ${currency}`}
              hint="Before tax"
              inputMode="decimal"
              value={project.fixedPrice === null ? '' : inStyle(plainAmount(project.fixedPrice, currency))}
              save={(text) => save({ fixedPrice: readMoney(text, currency) })}
            />
          )}
          <SavedSelect
            label="Stage"
            hint="Set once the studio has named its stages in Setup; the final one takes it out of the pickers."
            value={project.stageId ?? ''}
            options={[['', 'None'], ...stagesInOrder(pricer).map((stage) => [stage.id, stage.name] as const)]}
            save={(stageId) => save({ stageId: stageId || null })}
          />
          {client && (
            <SavedSelect
              label="Contract"
              hint="Shared rates, markups, cap and terms of several projects"
              value={project.contractId ?? ''}
              options={[
                [
                  '',
                  inherited && !project.contractId ? `As the parent: ${pricer.contract.get(inherited)?.name}` : 'None',
                ],
                ...contracts.map((contract) => [contract.id, contract.name] as const),
              ]}
              save={(contractId) => save({ contractId: contractId || null })}
            />
          )}
          <SavedSelect
            label="Part of"
            hint="Its parts move with it"
            value={project.parentId ?? ''}
            options={[['', 'None (top level)'], ...homes]}
            save={(parentId) => run('project.move', { id: project.id, parentId: parentId || null, before: null })}
          />
          {project.parentId === null && (
            <SavedSelect
              label="Client"
              hint="Its parts follow; what is invoiced stays where it was sent"
              value={project.clientId ?? ''}
              options={[
                ['', 'None (internal)'],
                ...pricer.book.clients
                  .filter((each) => !each.archived || each.id === project.clientId)
                  .map((each) => [each.id, each.name] as const),
              ]}
              save={(clientId) => save({ clientId: clientId || null })}
            />
          )}
          {client && <Answering {...{ pricer, project }} />}
          <SavedField
            label="Tags"
            hint="With commas between. All that is recorded on it and its parts is found and grouped by them in reports."
            value={showTags(tagsOf(project))}
            save={(text) => save({ tags: readTags(text) })}
          />
          {pricer.book.members.length > 1 && (
            <SavedSelect
              label="Approved by"
              hint="Of its hours and those of its parts, from now on."
              value={project.secondLook ? 'two' : 'one'}
              options={[
                ['one', 'Whoever checks the member'],
                ['two', 'Two people: a second look'],
              ]}
              save={(looks) => save({ secondLook: looks === 'two' })}
            />
          )}
          <fieldset>
            <legend className="mb-1 text-xs font-semibold text-soft">Colour</legend>
            <div className="flex flex-wrap gap-1">
              {projectColours.map((colour) => (
                <label
                  key={colour}
                  className="flex cursor-pointer items-center gap-1.5 rounded-md border border-transparent px-2 py-1 text-sm has-checked:border-ink has-focus-visible:outline-2"
                >
                  <input
                    type="radio"
                    name="colour"
                    className="sr-only"
                    checked={project.colour === colour}
                    onChange={() => void attempt('project.edit', { id: project.id, colour })}
                  />
                  <Swatch colour={colour} /> {colour}
                </label>
              ))}
            </div>
          </fieldset>
          {client && (
            <div className="md:col-span-2">
              <OwnRounding
                policy={project.rounding}
                otherwise={client.rounding ?? pricer.book.workspace.rounding}
                whose="the client’s"
                save={(rounding) => save({ rounding })}
              />
            </div>
          )}
        </div>
      </Section>
      {(project.places?.length || pricer.book.members.some(({ placeRule = 'free' }) => placeRule !== 'free')) && (
        <PlaceList
          title="Places to record from"
          about="Where time on this project and its parts is recorded from, by members of whom that is asked. With none of its own, those of the studio hold."
          places={project.places ?? []}
          save={(places) => save({ places })}
        />
      )}
    </>
  );
}

/** Who answers for it at its client; without anybody of its own, whoever answers for the project around it. */
function Answering({ pricer, project }: { pricer: Pricer; project: Project }) {
  const { attempt } = useChanges();
  const people = pricer.book.contacts.filter((contact) => contact.clientId === project.clientId);
  const chosen = people.filter((contact) => contact.projectIds?.includes(project.id)).map((contact) => contact.id);
  const around = contactsOf(pricer, project.id);
  const change = (ids: string[]) => {
    const contact = people.find((each) => ids.includes(each.id) !== chosen.includes(each.id))!;
    const own = contact.projectIds ?? [];
    const projectIds = ids.includes(contact.id) ? [...own, project.id] : own.filter((id) => id !== project.id);
    return attempt('contact.edit', { id: contact.id, projectIds });
  };
  return (
    <div className="flex flex-col gap-1">
      <span className="text-xs font-semibold text-soft">Contacts</span>
      <Ticks
        label={`Contacts of ${project.name}`}
        options={people}
        chosen={chosen}
        save={change}
        none={
          around.length > 0 ? `from the project around it: ${around.map((each) => each.name).join(', ')}` : 'nobody yet'
        }
        empty="The client has no contacts yet: add them on its page, under Details and contacts."
      />
      <p className="text-xs text-soft">
        Who it is for on its invoices; their calls and mails are offered to it before anything was placed.
      </p>
    </div>
  );
}
