import type { CaptureSettings } from '@half-penny/core/capture';
import { useState } from 'react';
import { saveSettings, wipeTrail } from '../../data/trail';
import { removeOldTrailBackups } from '../../data/trail-backup';
import { Button } from '../../parts/button';
import { Check, CheckBox } from '../../parts/check';
import { Dialog } from '../../parts/dialog';
import { SavedField } from '../../parts/field';
import { Section } from '../../parts/page';
import { SelectField } from '../../parts/select';

const linesOf = (list: readonly string[]) => list.join('\n');
const listOf = (text: string) =>
  text
    .split('\n')
    .map((each) => each.trim())
    .filter(Boolean);

/** What can be left out, each as a list of lines. */
const never = [
  { of: 'neverPrograms', label: 'Programs', hint: 'One a line, by how they begin' },
  { of: 'neverSites', label: 'Sites', hint: 'With all that belongs to them' },
  { of: 'neverFolders', label: 'Folders', hint: 'One a line, by how they begin' },
  { of: 'neverWords', label: 'Private words', hint: 'Nothing with one of them in it, wherever it stands' },
] as const;

/** What is never recorded, how much of addresses is kept, how long all of it is, and wiping it. */
export function Keeping({ settings }: { settings: CaptureSettings }) {
  return (
    <>
      <Section title="Never recorded">
        <p className="mb-3 max-w-2xl text-soft">
          Agent and extension know these lists: what is on them never reaches the disk. Private windows are never
          recorded.
        </p>
        <div className="grid max-w-4xl gap-4 md:grid-cols-4">
          {never.map(({ of, label, hint }) => (
            <SavedField
              key={of}
              label={label}
              lines={4}
              hint={hint}
              value={linesOf(settings[of])}
              save={(text) => saveSettings({ [of]: listOf(text) })}
            />
          ))}
        </div>
        <div className="mt-4 grid max-w-4xl items-start gap-4 md:grid-cols-4">
          <SelectField
            label="Of an address is kept"
            value={settings.addressTo}
            options={[
              ['whole', 'all of it'],
              ['path', 'site and path'],
              ['site', 'the site alone'],
            ]}
            onPick={(picked) => void saveSettings({ addressTo: picked as CaptureSettings['addressTo'] })}
          />
          <SavedField
            label="Your own addresses and numbers"
            lines={2}
            className="md:col-span-2"
            hint="One a line. They are in every e-mail and tell nothing; they stand in no sentence."
            value={linesOf(settings.ownAddresses)}
            save={(text) => saveSettings({ ownAddresses: listOf(text) })}
          />
          <label className="flex items-center gap-2 pt-5">
            <Check checked={settings.privateDeletes} save={(privateDeletes) => saveSettings({ privateDeletes })} />
            Private deletes it
          </label>
        </div>
      </Section>
      <Section title="How long it is kept">
        <p className="mb-3 max-w-2xl text-soft">
          Activity lies in clear in this browser’s profile: whoever can read the profile’s folder can read it.
        </p>
        <div className="flex flex-wrap items-end gap-4">
          <SavedField
            label="Days"
            inputMode="numeric"
            className="w-32"
            value={String(settings.keepDays)}
            save={(text) => saveSettings({ keepDays: Math.round(Number(text.replace(',', '.'))), keepingSaid: true })}
            hint="0 for ever"
          />
          <Wipe paused={settings.paused} />
        </div>
      </Section>
    </>
  );
}

function Wipe({ paused }: { paused: boolean }) {
  const [open, setOpen] = useState(false);
  const [pause, setPause] = useState(true);
  const [all, setAll] = useState(false);
  const wipe = async () => {
    if (pause && !paused) await saveSettings({ paused: true });
    await wipeTrail(all);
    await removeOldTrailBackups();
  };
  return (
    <>
      <Button kind="fault" onClick={() => setOpen(true)}>
        Wipe the trail…
      </Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        title="Wipe the trail"
        about="All activity, how it was placed, and what was learned from it goes for good, with its sealed copy and what devices still hold; entries that were posted stay. This cannot be undone."
      >
        <div className="mb-4 flex flex-col gap-2">
          {paused ? (
            <p className="text-soft">Recording is paused, and stays so.</p>
          ) : (
            <label className="flex items-center gap-2">
              <CheckBox checked={pause} onChange={setPause} />
              Pause recording first, so that nothing comes in again
            </label>
          )}
          <label className="flex items-center gap-2">
            <CheckBox checked={all} onChange={setAll} />
            The rules and these settings too
          </label>
        </div>
        <Button
          kind="fault"
          onClick={() => {
            void wipe();
            setOpen(false);
          }}
        >
          Wipe it
        </Button>
      </Dialog>
    </>
  );
}
