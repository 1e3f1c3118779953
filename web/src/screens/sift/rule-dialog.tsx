import type { Pricer } from '@half-penny/core/billing';
import { catchesAll, placeOn, readSentence, type Outcome, type PlacingRule } from '@half-penny/core/capture';
import { noJob } from '@half-penny/core/entries';
import { type Member } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { useState } from 'react';
import { useSession } from '../../data/session';
import { useRules } from '../../data/trail';
import { useTrailChanges } from '../../data/trail-changes';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { SelectField } from '../../parts/select';
import { JobPicker } from '../../parts/job-picker';
import { useSubmit } from '../../parts/use-submit';
import { RuleEffectLines, useRuleEffect } from '../../parts/rule-effect';
import { showOutcome } from './evidence';
import type { NewRule } from './new-rule';
import { CheckBox } from '../../parts/check';

const acts = [
  ['place', 'place it on a job'],
  ['private', 'keep it private'],
  ['not work', 'it is not work'],
  ['never record', 'never record it'],
] as const;

/** Writing a rule: its sentence, what it does, and before it is kept what it would have matched. */
export function RuleDialog({
  pricer,
  member,
  rule,
  onClose,
}: {
  pricer: Pricer;
  member: Member;
  rule: NewRule;
  onClose: () => void;
}) {
  const { entry: workspace } = useSession();
  const change = useTrailChanges();
  const [sentence, setSentence] = useState(rule.sentence);
  const [then, setThen] = useState<Outcome>(
    rule.then ?? placeOn({ workspaceId: workspace.id, projectId: null, taskId: null }),
  );
  const [posts, setPosts] = useState(rule.posts);
  const [back, setBack] = useState(true);
  const rules = useRules();
  const read = tryRead(sentence);
  const made: PlacingRule | null =
    'when' in read && rules
      ? {
          id: rule.id,
          order: rule.before?.order ?? Math.max(0, ...rules.map((each) => each.order)) + 1,
          when: read.when,
          then,
          since: back ? 0 : Date.now(),
          posts: posts && then.act === 'place',
          on: rule.before?.on ?? true,
        }
      : null;
  const effect = useRuleEffect(made, rules, member.zone);
  const { fault, submit } = useSubmit(async () => {
    const when = readSentence(sentence);
    if (then.act === 'place' && then.projectId === null && then.unlisted === '')
      throw new Error('Say which job it is to be placed on.');
    if (!made) return;
    if (await change(rule.before ? 'Rule changed' : 'Rule made', { rules: { put: [{ ...made, when }] } })) onClose();
  });
  const setPlace = (fields: Partial<Extract<Outcome, { act: 'place' }>>) =>
    then.act === 'place' && setThen({ ...then, ...fields });
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={rule.before ? 'Change the rule' : 'A rule'}
      about="What matches is placed there from now on, without asking."
    >
      <form onSubmit={submit} aria-label="Rule" className="flex flex-col gap-3">
        <TextField
          label="Where…"
          lines={2}
          value={sentence}
          fault={fault ?? ('fault' in read ? read.fault : undefined)}
          hint="Fields: program, title, address, site, folder, file, document, people, kind, weekday, time. Verbs: has, is, begins with, ends with, is like (* for anything). Joined with and, or, not, unless and brackets; has none of “a”, “b” keeps several out."
          onChange={(event) => setSentence(event.target.value)}
        />
        <div className="grid gap-4 md:grid-cols-2">
          <SelectField
            label="…then"
            value={then.act}
            options={acts}
            onPick={(picked) => {
              const act = picked as Outcome['act'];
              setThen(
                act === 'place' ? placeOn({ workspaceId: workspace.id, projectId: null, taskId: null }) : { act },
              );
            }}
          />
          {then.act === 'place' && (
            <div className="flex flex-col gap-1">
              <span className="text-xs font-semibold text-soft">Job</span>
              <JobPicker
                pricer={pricer}
                label="Job"
                value={then.projectId || then.unlisted ? then : noJob}
                none="Choose a job"
                onPick={(job) => setPlace(job)}
                boxed
              />
            </div>
          )}
        </div>
        {then.act === 'place' && (
          <div className="grid gap-4 md:grid-cols-[1fr_1.4fr_84px]">
            <SelectField
              label="Service"
              value={then.serviceId ?? ''}
              options={[['', 'not said'], ...pricer.book.services.map((each) => [each.id, each.name] as const)]}
              onPick={(picked) => setPlace({ serviceId: picked || null })}
            />
            <TextField
              label="Sentence for the client"
              hint="Left empty, one is made of what was seen."
              value={then.note}
              onChange={(event) => setPlace({ note: event.target.value })}
            />
            <TextField
              label="Billable, %"
              inputMode="numeric"
              value={String(then.billable)}
              onChange={(event) =>
                setPlace({ billable: Math.max(0, Math.min(100, Math.round(Number(event.target.value) || 0))) })
              }
            />
            {pricer.book.workspace.openedFor.length > 0 && (
              <SelectField
                label="Opened for"
                value={then.openedForId ?? ''}
                options={[
                  ['', 'none'],
                  ...pricer.book.workspace.openedFor.map((each) => [each.id, each.name] as const),
                ]}
                onPick={(picked) => setPlace({ openedForId: picked || null })}
              />
            )}
          </div>
        )}
        <div className="flex flex-col gap-1">
          <label className="flex items-center gap-2">
            <CheckBox checked={back} onChange={setBack} />
            Also for what was seen before and is not posted yet
          </label>
          {then.act === 'place' && (
            <label className="flex items-center gap-2">
              <CheckBox checked={posts} onChange={setPosts} />
              Post what it places by itself, an hour after it was seen
            </label>
          )}
        </div>
        <div aria-live="polite" className="border-l-[3px] border-time pl-3 text-sm">
          {'when' in read && catchesAll(read.when) && (
            <p className="text-attention">This rule catches everything that no rule before it does.</p>
          )}
          {effect ? (
            <RuleEffectLines {...{ effect, rules: rules ?? [] }} />
          ) : (
            <p className="text-soft">{'fault' in read ? 'The sentence cannot be read yet.' : 'Looking back…'}</p>
          )}
        </div>
        <div className="flex items-center gap-3">
          <Button type="submit" kind="main" disabled={!made}>
            {rule.before ? 'Keep the rule' : 'Make the rule'}
          </Button>
          <span className="written text-sm text-soft">{showOutcome(pricer, then)}</span>
        </div>
      </form>
    </Dialog>
  );
}

function tryRead(sentence: string): { when: PlacingRule['when'] } | { fault: string } {
  try {
    return { when: readSentence(sentence) };
  } catch (thrown) {
    return { fault: wordsOf(thrown) };
  }
}
