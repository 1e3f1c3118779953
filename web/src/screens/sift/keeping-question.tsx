import { saveSettings, useCaptureSettings } from '../../data/trail';
import { Button } from '../../parts/button';

const CHOICES = [
  ['30 days', 30],
  ['Half a year', 180],
  ['A year', 365],
  ['For ever', 0],
] as const;

/** Asked once, with the first activity: how long it is to be kept. */
export function KeepingQuestion() {
  const settings = useCaptureSettings();
  if (!settings || settings.keepingSaid) return null;
  return (
    <section
      aria-label="How long activity is kept"
      className="mb-4 flex flex-wrap items-center gap-x-4 gap-y-2 border-l-[3px] border-attention bg-attention-ground px-3 py-2"
    >
      <p className="max-w-xl">
        <b>How long is activity to be kept?</b> It lies in clear in this browser’s profile; entries that were posted
        stay either way. Sift → Sources changes it later.
      </p>
      <span className="flex flex-wrap gap-2">
        {CHOICES.map(([words, keepDays]) => (
          <Button key={words} onClick={() => void saveSettings({ keepDays, keepingSaid: true })}>
            {words}
          </Button>
        ))}
      </span>
    </section>
  );
}
