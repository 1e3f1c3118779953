import { useController, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import { DayField } from './day-field';
import type { LabelledProps } from './field';
import { SelectField, type SelectFieldProps } from './select';

// The kit's own fields within a form: their value is the form's.

interface InForm<Form extends FieldValues> {
  control: Control<Form>;
  name: FieldPath<Form>;
}

type FormSelectProps<Form extends FieldValues> = Omit<SelectFieldProps, 'value' | 'onPick'> &
  InForm<Form> & {
    /** What else follows from a choice. */
    onPicked?: (value: string) => void;
  };

export function FormSelect<Form extends FieldValues>({ control, name, onPicked, ...rest }: FormSelectProps<Form>) {
  const { field } = useController({ control, name });
  const onPick = (value: string) => {
    field.onChange(value);
    onPicked?.(value);
  };
  return <SelectField {...rest} value={field.value} onPick={onPick} />;
}

/** No day is "". */
export function FormDay<Form extends FieldValues>({ control, name, ...rest }: LabelledProps & InForm<Form>) {
  const { field } = useController({ control, name });
  return <DayField {...rest} value={field.value} onPick={field.onChange} onClear={() => field.onChange('')} />;
}
