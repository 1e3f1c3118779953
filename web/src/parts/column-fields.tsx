import { columnName, type Table } from '@half-penny/formats/hours';
import { SelectField, type Option } from './select';

interface ColumnFieldsProps<Field extends string> {
  table: Pick<Table, 'head' | 'rows'>;
  fields: readonly Field[];
  names: Readonly<Record<Field, string>>;
  /** Which column, by its place, means what. */
  columns: Partial<Record<Field, number>>;
  onChange: (columns: Partial<Record<Field, number>>) => void;
}

/** For each thing that a column can mean, which one does; each column is offered with its head and a value from it. */
export function ColumnFields<Field extends string>({
  table,
  fields,
  names,
  columns,
  onChange,
}: ColumnFieldsProps<Field>) {
  const sample = (at: number) => {
    const value = table.rows.find((row) => row[at] !== null && row[at] !== '')?.[at];
    if (value === undefined) return '';
    return value instanceof Date ? value.toISOString().slice(0, 16) : String(value).slice(0, 24);
  };
  const options: Option[] = [
    ['', '–'],
    ...table.head.map((head, at): Option => [
      String(at),
      `${columnName(at)}: ${head.slice(0, 30)}${sample(at) && ` (${sample(at)})`}`,
    ]),
  ];
  const set = (field: Field, value: string) => {
    const { [field]: _before, ...others } = columns;
    onChange(value === '' ? (others as typeof columns) : { ...columns, [field]: Number(value) });
  };
  return fields.map((field) => (
    <SelectField
      key={field}
      label={names[field]}
      value={columns[field] === undefined ? '' : String(columns[field])}
      onPick={(picked) => set(field, picked)}
      options={options}
    />
  ));
}
