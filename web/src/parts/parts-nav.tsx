import { NavLink } from 'react-router';

/** The parts of a screen that is too much for one sheet. The first is where the screen opens. */
export function PartsNav({
  label,
  base,
  parts,
  current,
}: {
  label: string;
  base: string;
  parts: readonly { path: string; name: string }[];
  current: string | undefined;
}) {
  return (
    <nav aria-label={label} className="mb-6 flex flex-wrap gap-x-5 gap-y-1 border-b border-ink pb-2">
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
