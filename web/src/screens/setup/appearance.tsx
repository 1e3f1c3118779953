import type { Pricer } from '@half-penny/core/billing';
import { numberStyles, showAmount, type NumberStyle } from '@half-penny/core/money';
import { clockStyles, showMinute, type ClockStyle } from '@half-penny/core/time';
import { useChanges } from '../../data/session';
import { SavedSelect } from '../../parts/select';
import { themeChosen, themes, type Theme } from '../../state/shell';
import { useAppDispatch, useAppSelector } from '../../state/store';

/** How the application looks: figures and times for the whole studio, the theme in this browser. */
export function Looks({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const theme = useAppSelector((state) => state.shell.theme);
  const dispatch = useAppDispatch();
  const { workspace } = pricer.book;
  return (
    <div className="grid max-w-2xl gap-4 md:grid-cols-2">
      <SavedSelect
        label="Figures are written"
        value={workspace.numberStyle}
        save={(style) => run('workspace.edit', { numberStyle: style as NumberStyle })}
        options={numberStyles.map((style) => [style, style] as const)}
        hint={`On screen, on invoices from now on, and as you type them: ${showAmount(123_450, workspace.currency)}. Files that go out have their own way.`}
      />
      <SavedSelect
        label="Times of day are written"
        value={workspace.clockStyle}
        save={(style) => run('workspace.edit', { clockStyle: style as ClockStyle })}
        options={clockStyles.map((style) => [style, style] as const)}
        hint={`On screen: the day begins at ${showMinute(9 * 60 + 5)}. Either is understood as you type.`}
      />
      <SavedSelect
        label="Theme"
        value={theme}
        save={async (value) => dispatch(themeChosen(value as Theme))}
        options={themes.map(
          (each) => [each, each === 'system' ? 'As the system' : each === 'dark' ? 'Dark' : 'Light'] as const,
        )}
        hint="Holds for this browser only."
      />
    </div>
  );
}
