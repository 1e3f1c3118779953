import { Key } from '../../parts/button';
import { keyTable, showKeys, type KeyName } from '../../parts/keys';

const names = Object.keys(keyTable) as KeyName[];
const places = [...new Set(names.map((name) => keyTable[name].where))];

/** Every key there is, from the table that binds them. */
export function Keys() {
  return (
    <div className="max-w-5xl gap-x-10 lg:columns-2">
      {places.map((where) => (
        <section key={where} aria-label={where} className="mb-6 break-inside-avoid">
          <h2 className="mb-1 text-sm font-semibold">{where}</h2>
          <dl className="border-t border-ink">
            {names
              .filter((name) => keyTable[name].where === where)
              .map((name) => (
                <div key={name} className="flex gap-4 border-b border-rule px-2 py-1.5">
                  <dt className="w-36 shrink-0">
                    <Key>{showKeys(name)}</Key>
                  </dt>
                  <dd>{keyTable[name].does}</dd>
                </div>
              ))}
          </dl>
        </section>
      ))}
    </div>
  );
}
