import { Key } from '../../parts/button';
import { keyWords } from '../../parts/key-words';
import { showKeys, type KeyName } from '../../parts/keys';

const names = Object.keys(keyWords) as KeyName[];
const places = [...new Set(names.map((name) => keyWords[name][0]))];

/** Every key there is, from the table that binds them. */
export function Keys() {
  return (
    <div className="max-w-5xl gap-x-10 lg:columns-2">
      {places.map((where) => (
        <section key={where} aria-label={where} className="mb-6 break-inside-avoid">
          <h2 className="mb-1 text-sm font-semibold">{where}</h2>
          <dl className="border-t border-ink">
            {names
              .filter((name) => keyWords[name][0] === where)
              .map((name) => (
                <div key={name} className="flex gap-4 border-b border-rule px-2 py-1.5">
                  <dt className="w-36 shrink-0">
                    <Key>{showKeys(name)}</Key>
                  </dt>
                  <dd>{keyWords[name][1]}</dd>
                </div>
              ))}
          </dl>
        </section>
      ))}
    </div>
  );
}
