import { Check as Tick, Minus } from 'lucide-react';
import { Checkbox } from 'radix-ui';
import type { ComponentProps } from 'react';
import { useAtOnce } from './use-at-once';

type CheckBoxProps = Omit<ComponentProps<typeof Checkbox.Root>, 'checked' | 'onChange' | 'onCheckedChange'> & {
  /** `indeterminate`: some of what it stands for, not all. */
  checked: boolean | 'indeterminate';
  /** With what it is to be from now on; half checked becomes checked. */
  onChange?: (checked: boolean) => void;
};

/** A check box cut in the same paper: a box with a border of 3:1, filled with petrol where it is chosen. */
export function CheckBox({ checked, onChange, className = '', ...rest }: CheckBoxProps) {
  return (
    <Checkbox.Root
      {...rest}
      checked={checked}
      onCheckedChange={(next) => onChange?.(next === true)}
      className={`check-box ${className}`}
    >
      <Checkbox.Indicator className="contents">
        {checked === 'indeterminate' ? <Minus size={12} strokeWidth={3} /> : <Tick size={12} strokeWidth={3} />}
      </Checkbox.Indicator>
    </Checkbox.Root>
  );
}

/** How a box that stands for many others looks: checked where all are, half where some are, empty where there are none. */
export const checkedOf = (boxes: readonly boolean[]): boolean | 'indeterminate' =>
  boxes.some(Boolean) && (boxes.every(Boolean) || 'indeterminate');

type CheckProps = Omit<CheckBoxProps, 'checked' | 'onChange'> & {
  checked: boolean;
  /** Saves what it was set to. */
  save: (checked: boolean) => Promise<unknown>;
};

/** A check box that saves by itself, and shows what it was set to before that is written. */
export function Check({ checked, save, ...rest }: CheckProps) {
  const [shown, set] = useAtOnce(checked, save);
  return <CheckBox {...rest} checked={shown} onChange={set} />;
}
