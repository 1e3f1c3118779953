import { writeSentence, type Condition, type Outcome, type PlacingRule, type Subject } from '@half-penny/core/capture';
import { newId } from '../../data/registry';
import type { StretchLine } from './acts';

/** A rule that is being written: its condition as a sentence, open to edit. */
export interface NewRule {
  id: string;
  sentence: string;
  then: Outcome | null;
  posts: boolean;
  /** The rule that it is instead of. */
  before: PlacingRule | null;
}

/** A rule for what is like a stretch, with its telling words already picked: its folder, its site, who took part, or its title. */
export function ruleFromStretch(line: StretchLine, workspaceId: string): NewRule {
  const { stretch, offer } = line.row;
  const then = stretch.outcome ?? offer?.outcome ?? null;
  return {
    id: newId(),
    sentence: writeSentence(tellingOf(stretch.evidence.map((each) => each.subject))),
    then: then?.act === 'place' && then.workspaceId !== workspaceId ? null : then,
    posts: false,
    before: null,
  };
}

/** What tells a thing from others, the best one can say of it. */
function tellingOf(subjects: readonly Subject[]): Condition {
  const found = (pick: (subject: Subject) => Condition | null) => subjects.map(pick).find((each) => each !== null);
  const folder = found(({ folder }) =>
    folder.split('/').length > 2 && !/downloads|desktop/i.test(folder)
      ? { field: 'folder', verb: 'begins with', text: folder }
      : null,
  );
  const person = found(({ people }) => (people[0] ? { field: 'people', verb: 'has', text: people[0] } : null));
  const site = found(({ site }) => (site ? { field: 'site', verb: 'is', text: site } : null));
  const title = found(({ title }) => (title ? { field: 'title', verb: 'has', text: title.slice(0, 60) } : null));
  if (folder) return folder;
  return person ?? site ?? title ?? { field: 'title', verb: 'has', text: 'something' };
}

/** A rule for something in a list: a document, folder, site, program or person. */
export const ruleFor = (condition: Condition, then: Outcome | null): NewRule => ({
  id: newId(),
  sentence: writeSentence(condition),
  then,
  posts: false,
  before: null,
});

export const ruleAgain = (rule: PlacingRule): NewRule => ({
  id: rule.id,
  sentence: writeSentence(rule.when),
  then: rule.then,
  posts: rule.posts,
  before: rule,
});
