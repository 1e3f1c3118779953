import { joinTags, readTags, showTags, tagsOf, withoutTags, type Entry } from '@half-penny/core/model';
import { useState } from 'react';
import { useKnownTags } from '../data/tags';
import { useChanges } from '../data/session';
import { Button } from './button';
import { Dialog } from './dialog';
import { TextField } from './field';
import { useSubmit } from './use-submit';

/** Tags offered at most: more than that are typed sooner than found. */
const MOST_OFFERED = 24;

/** Tags of entries: those that all of them have are there to be changed; what only some have stays with those. */
export function TagDialog({ entries, onClose }: { entries: readonly Entry[]; onClose: () => void }) {
  const { run } = useChanges();
  const [first, ...others] = entries;
  const shared = tagsOf(first!).filter((tag) => others.every((each) => withoutTags([tag], tagsOf(each)).length === 0));
  const only = withoutTags(joinTags(...entries.map(tagsOf)), shared);
  const [text, setText] = useState(showTags(shared));
  const known = useKnownTags();
  const { fault, submit } = useSubmit(async () => {
    const wanted = readTags(text);
    await run('entry.tag', {
      ids: entries.map((entry) => entry.id),
      add: wanted,
      remove: withoutTags(shared, wanted),
    });
    onClose();
  });
  const typed = text
    .split(',')
    .map((each) => each.trim())
    .filter(Boolean);
  const offered = withoutTags(known ?? [], typed).slice(0, MOST_OFFERED);
  return (
    <Dialog
      open
      onClose={onClose}
      title={entries.length === 1 ? 'Tags of the entry' : `Tags of ${entries.length} entries`}
      about="Free words, for finding and grouping. Reports can be grouped and narrowed by them."
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <TextField
          label="Tags, with commas between"
          value={text}
          fault={fault}
          autoFocus
          placeholder="site visit, urgent"
          hint={only.length > 0 ? `Some of them also have ${showTags(only)}, which they keep.` : undefined}
          onChange={(event) => setText(event.target.value)}
        />
        {offered.length > 0 && (
          <div>
            <div className="mb-1 text-xs font-semibold text-soft">Used before</div>
            <div className="flex flex-wrap gap-1.5">
              {offered.map((tag) => (
                <Button
                  key={tag}
                  kind="quiet"
                  className="border-b border-dotted border-current"
                  aria-label={`Add the tag ${tag}`}
                  onClick={() => setText([...typed, tag].join(', '))}
                >
                  {tag}
                </Button>
              ))}
            </div>
          </div>
        )}
        <div className="flex gap-2">
          <Button type="submit" kind="main" shortcut="Enter">
            Tag
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
