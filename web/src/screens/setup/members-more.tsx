import type { Pricer } from '@half-penny/core/billing';
import { wayWords } from '@half-penny/core/entries';
import { askable, recordingWays, type Member, type PlaceRule } from '@half-penny/core/model';
import { useAll } from '../../data/read';
import { useChanges } from '../../data/session';
import { Check } from '../../parts/check';
import { Checks } from '../../parts/checks';
import { SavedSelect } from '../../parts/select';
import { SavedField } from '../../parts/field';
import { Section } from '../../parts/page';
import { zones } from '../../parts/zones';

/** Of each member: zone, who checks their week, what they may do, what must be said, and which services they never use. */
export function MembersMore({ pricer }: { pricer: Pricer }) {
  return (
    <Section title="Time zone, checker, required fields, services">
      <div className="border-t border-ink">
        {pricer.book.members.map((member) => (
          <One key={member.id} pricer={pricer} member={member} />
        ))}
      </div>
    </Section>
  );
}

const placeRuleWords = [
  ['free', 'Anywhere; nobody asks'],
  ['warned', 'Elsewhere is noted'],
  ['bound', 'Only from the places'],
] as const satisfies readonly (readonly [PlaceRule, string])[];

function One({ pricer, member }: { pricer: Pricer; member: Member }) {
  const { run, attempt } = useChanges();
  const save = (fields: Partial<Omit<Member, 'id'>>) => run('member.edit', { id: member.id, ...fields });
  const services = pricer.book.services.filter((service) => !service.archived);
  const kinds = pricer.book.kindsOfWork.map(({ id, serviceId, name }) => ({
    id,
    name: `${pricer.service.get(serviceId)?.name ?? ''}: ${name}`,
  }));
  const others = pricer.book.members.filter((each) => each.id !== member.id);
  const sets = useAll('rightSets') ?? [];
  return (
    <fieldset className="grid gap-x-6 gap-y-3 border-b border-rule px-2 py-3 md:grid-cols-[160px_200px_200px_minmax(0,1fr)]">
      <legend className="sr-only">{member.name}</legend>
      <span aria-hidden className="written pt-5 font-semibold">
        {member.name}
      </span>
      <div className="flex flex-col gap-3">
        <SavedSelect
          label="Time zone"
          value={member.zone}
          options={zones(member.zone)}
          save={(zone) => save({ zone })}
        />
        <SavedField
          label="E-mail"
          inputMode="email"
          value={member.email ?? ''}
          save={(email) => save({ email: email.trim() })}
        />
      </div>
      <div className="flex flex-col gap-3">
        <SavedSelect
          label="Who checks their week"
          value={member.checkerId ?? ''}
          options={[['', 'Nobody'], ...others.map((each) => [each.id, each.name] as const)]}
          save={(checkerId) => save({ checkerId: checkerId || null })}
        />
        {member.checkerId !== null && (
          <SavedSelect
            label="Deputy of the checker"
            value={member.deputyId ?? ''}
            options={[
              ['', 'Nobody'],
              ...others.filter(({ id }) => id !== member.checkerId).map((each) => [each.id, each.name] as const),
            ]}
            save={(deputyId) => save({ deputyId: deputyId || null })}
          />
        )}
        <SavedSelect
          label="Where they record from"
          value={member.placeRule ?? 'free'}
          options={placeRuleWords}
          save={(picked) => save({ placeRule: picked as PlaceRule })}
        />
        {sets.length > 0 && (
          <SavedSelect
            label="Rights"
            value={member.rightSetId ?? ''}
            options={[['', 'Everything'], ...sets.map(({ id, name }) => [id, name] as const)]}
            save={(rightSetId) => save({ rightSetId: rightSetId || null })}
          />
        )}
      </div>
      <div>
        <div className="mb-1 text-xs font-semibold text-soft">Needed before a timer starts</div>
        <Checks
          className="mb-3 flex flex-wrap gap-x-4 gap-y-1 text-sm"
          options={askable.map((field) => ({ id: field, name: field }))}
          chosen={member.asked}
          save={(asked) => attempt('member.edit', { id: member.id, asked })}
        />
        <div className="mb-1 text-xs font-semibold text-soft">Services they use</div>
        <Checks
          className="flex flex-wrap gap-x-4 gap-y-1 text-sm"
          options={services}
          chosen={services.map(({ id }) => id).filter((id) => !member.hiddenServices.includes(id))}
          save={(used) =>
            attempt('member.edit', {
              id: member.id,
              hiddenServices: services.map(({ id }) => id).filter((id) => !used.includes(id)),
            })
          }
        />
        {kinds.length > 0 && (
          <>
            <div className="mt-3 mb-1 text-xs font-semibold text-soft">Kinds of work they record</div>
            <Checks
              className="flex flex-wrap gap-x-4 gap-y-1 text-sm"
              options={kinds}
              chosen={member.kindsOfWork ?? kinds.map(({ id }) => id)}
              save={(chosen) =>
                attempt('member.edit', {
                  id: member.id,
                  // All of them are those that will come as well.
                  kindsOfWork: chosen.length === kinds.length ? null : chosen,
                })
              }
            />
          </>
        )}
        <div className="mt-3 mb-1 text-xs font-semibold text-soft">They record</div>
        <Checks
          className="flex flex-wrap gap-x-4 gap-y-1 text-sm"
          options={recordingWays.map((way) => ({ id: way, name: wayWords[way] }))}
          chosen={member.ways ?? [...recordingWays]}
          save={(ways) => attempt('member.edit', { id: member.id, ways })}
        />
        <label className="mt-3 flex items-center gap-2 text-sm">
          <Check
            checked={member.locked ?? false}
            save={(locked) => attempt('member.edit', { id: member.id, locked })}
          />
          Only those who set the studio up change what they are asked and offered
        </label>
      </div>
    </fieldset>
  );
}
