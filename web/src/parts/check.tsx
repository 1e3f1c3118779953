import type { ComponentProps } from 'react';
import { useAtOnce } from './use-at-once';

type CheckProps = Omit<ComponentProps<'input'>, 'type' | 'checked' | 'onChange'> & {
  checked: boolean;
  /** Saves what it was set to. */
  save: (checked: boolean) => Promise<unknown>;
};

/** A check box that saves by itself, and shows what it was set to before that is written. */
export function Check({ checked, save, className = '', ...rest }: CheckProps) {
  const [shown, set] = useAtOnce(checked, save);
  return (
    <input
      {...rest}
      type="checkbox"
      className={`accent-time ${className}`}
      checked={shown}
      onChange={(event) => set(event.target.checked)}
    />
  );
}
