import {
  conditionOfKnown,
  knownOfCondition,
  placeOn,
  writeSentence,
  type KnownBy as Known,
  type PlacingRule,
} from '@half-penny/core/capture';
import { Fault, type Member, type Project } from '@half-penny/core/model';
import { useState } from 'react';
import { Link } from 'react-router';
import { useSession } from '../../data/session';
import { useRules } from '../../data/trail';
import { useTrailChanges } from '../../data/trail-changes';
import { Button } from '../../parts/button';
import { TextField } from '../../parts/field';
import { Section } from '../../parts/page';
import { RuleEffectLines, useRuleEffect } from '../../parts/rule-effect';
import { useSubmit } from '../../parts/use-submit';

/** The rule that says by what a project is known has the project's name for its own. */
const ruleIdOf = (projectId: string): string => `known ${projectId}`;
const listOf = (typed: string): string[] =>
  [...new Set(typed.split(/[,\n]/).map((each) => each.trim()))].filter(Boolean);
/** "https://www.hire-stock.example/lamps" is of the site hire-stock.example. */
const siteIn = (typed: string): string =>
  typed
    .toLowerCase()
    .replace(/^[a-z]+:\/\//, '')
    .replace(/^www\./, '')
    .replace(/[/:?#].*$/, '');
const LEAST_WORD = 3;

/** Words and sites by which what is noticed is placed on a project from the start, and what they would have caught. */
export default function KnownBy({ project, member }: { project: Project; member: Member }) {
  const rules = useRules();
  if (!rules) return null;
  const own = rules.find((each) => each.id === ruleIdOf(project.id));
  const known = own ? knownOfCondition(own.when) : { words: [], sites: [] };
  return (
    <Section title="Known by">
      {own && !known ? (
        <p className="text-sm">
          <span className="written">{writeSentence(own.when)}</span>{' '}
          <Link to="/sift/rules" className="text-time underline">
            Change it under Rules
          </Link>
        </p>
      ) : (
        <KnownForm key={JSON.stringify(known)} {...{ project, member, rules, own, known: known! }} />
      )}
    </Section>
  );
}

interface FormProps {
  project: Project;
  member: Member;
  rules: readonly PlacingRule[];
  own: PlacingRule | undefined;
  known: Known;
}

function KnownForm({ project, member, rules, own, known }: FormProps) {
  const { entry: workspace } = useSession();
  const change = useTrailChanges();
  const [words, setWords] = useState(known.words.join(', '));
  const [sites, setSites] = useState(known.sites.join(', '));
  const typed: Known = { words: listOf(words), sites: listOf(sites).map(siteIn).filter(Boolean) };
  const when = conditionOfKnown(typed);
  const made: PlacingRule | null = when && {
    id: ruleIdOf(project.id),
    order: own?.order ?? Math.max(0, ...rules.map((each) => each.order)) + 1,
    when,
    then: placeOn({ workspaceId: workspace.id, projectId: project.id, taskId: null }),
    since: 0,
    posts: own?.posts ?? false,
    on: own?.on ?? true,
  };
  const isChanged = JSON.stringify(typed) !== JSON.stringify(known);
  const short = typed.words.find((word) => word.length < LEAST_WORD);
  const effect = useRuleEffect(short === undefined ? made : null, rules, member.zone);
  const { fault, submit } = useSubmit(async () => {
    if (short !== undefined) {
      throw new Fault(
        'too-short',
        `“${short}” is too short to tell one thing from another: write at least ${LEAST_WORD} letters.`,
        'words',
      );
    }
    if (made) await change('Known by words and sites', { rules: { put: [made] } });
    else if (own) await change('No longer known by words and sites', { rules: { remove: [own.id] } });
  });
  return (
    <form onSubmit={submit} aria-label="Known by" className="flex max-w-3xl flex-col gap-3">
      <p className="text-sm text-soft">
        What your computer notices with one of these is placed here without asking; Rules has it as one of yours. The
        project’s name, its job number and the client’s people are known already.
      </p>
      <div className="grid items-start gap-4 md:grid-cols-2">
        <TextField
          label="Words"
          value={words}
          fault={fault}
          hint="In titles, files or addresses of people; several with commas."
          onChange={(event) => setWords(event.target.value)}
        />
        <TextField
          label="Sites"
          value={sites}
          hint="Such as tickets.example; several with commas."
          onChange={(event) => setSites(event.target.value)}
        />
      </div>
      {effect && isChanged && (
        <div aria-live="polite" className="border-l-[3px] border-time pl-3 text-sm">
          <RuleEffectLines {...{ effect, rules }} />
        </div>
      )}
      {isChanged && (
        <Button type="submit" kind="main" className="self-start">
          {made ? 'Place these here' : 'Let them go'}
        </Button>
      )}
    </form>
  );
}
