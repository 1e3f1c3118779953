import { Ellipsis } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Key } from '../../parts/button';
import { showKey, type KeyName } from '../../parts/keys';

/** What can be done with a row, where it stands: each with its key. */
export function RowMenu({
  of,
  acts,
}: {
  of: string;
  acts: readonly { label: string; keyName: KeyName; act: () => void }[];
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        tabIndex={-1}
        aria-label={`What to do with ${of}`}
        className="rounded-sm p-1 text-soft hover:bg-time-ground hover:text-ink"
      >
        <Ellipsis size={16} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 w-56 rounded-lg border border-strong bg-sheet p-1.5 shadow-xl"
        >
          {acts.map(({ label, keyName, act }) => (
            <DropdownMenu.Item
              key={keyName}
              onSelect={act}
              className="flex cursor-pointer items-center justify-between rounded-sm px-2 py-1.5 outline-none data-highlighted:bg-time-ground"
            >
              {label} <Key>{showKey(keyName)}</Key>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
