import { NavLink } from 'react-router';

/** The parts of a screen that is too much for one sheet. The first is where the screen opens. */
export function PartsNav({
  label,
  base,
  parts,
  current,
  bare = false,
}: {
  label: string;
  base: string;
  parts: readonly { path: string; name: string }[];
  current: string | undefined;
  /** Beside a title, without a rule below it. */
  bare?: boolean;
}) {
  return (
    <nav aria-label={label} className={`flex flex-wrap gap-x-5 gap-y-1 ${bare ? '' : 'mb-6 border-b border-ink pb-2'}`}>
      {parts.map((part, index) => (
        <NavLink
          key={part.path}
          to={`${base}/${part.path}`}
          className={({ isActive }) =>
            `py-0.5 ${isActive || (current === undefined && index === 0) ? 'font-bold text-time' : 'text-soft hover:text-ink'}`
          }
        >
          {part.name}
        </NavLink>
      ))}
    </nav>
  );
}
