import { useState } from 'react';
import { newId } from '../../data/registry';
import { Button } from '../../parts/button';
import { TextField } from '../../parts/field';

interface OpenedForEntry {
  id: string;
  name: string;
}

/** The studio's own words for why a document was open. */
export function OpenedForList({
  names,
  save,
}: {
  names: readonly OpenedForEntry[];
  save: (names: OpenedForEntry[]) => Promise<unknown>;
}) {
  const [text, setText] = useState('');
  return (
    <div className="flex flex-col gap-2">
      <ul className="flex flex-wrap gap-x-5 gap-y-1">
        {names.map((each) => (
          <li key={each.id} className="flex items-center gap-2">
            {each.name}
            <Button
              kind="quiet"
              aria-label={`Remove ${each.name}`}
              onClick={() => void save(names.filter((other) => other.id !== each.id))}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim() === '') return;
          void save([...names, { id: newId(), name: text.trim() }]);
          setText('');
        }}
      >
        <TextField label="New entry of the list" value={text} onChange={(event) => setText(event.target.value)} />
        <Button type="submit">Add it to the list</Button>
      </form>
    </div>
  );
}
