import { Upload } from 'lucide-react';
import { useCallback, useRef, useState, type ReactNode } from 'react';
import { wordsOf } from '../data/in-words';
import { SEALED_TYPES } from '../data/sealed-files';
import { Button } from './button';
import { DropFiles, usePastedFiles } from './drop-files';

interface OpenFilesProps {
  /** What is waited for, beside the button. */
  hint: string;
  /** Takes one file, and says in a sentence what came of it. */
  take: (file: File) => Promise<ReactNode>;
  main?: boolean;
}

interface Outcome {
  name: string;
  said: ReactNode;
  fault: boolean;
}

/** Where sealed files are opened, dropped or pasted, one or many; below it what came of each. */
export function OpenFiles({ hint, take, main = false }: OpenFilesProps) {
  const input = useRef<HTMLInputElement>(null);
  const [outcomes, setOutcomes] = useState<readonly Outcome[]>([]);
  const [busy, setBusy] = useState(false);
  const onFiles = useCallback(
    (files: File[]) => {
      if (files.length === 0) return;
      setBusy(true);
      const all = async () => {
        const found: Outcome[] = [];
        for (const file of files) {
          const name = file.name;
          try {
            found.push({ name, said: await take(file), fault: false });
          } catch (thrown) {
            found.push({ name, said: wordsOf(thrown), fault: true });
          }
        }
        setOutcomes(found);
      };
      void all().finally(() => setBusy(false));
    },
    [take],
  );
  usePastedFiles(onFiles);
  return (
    <DropFiles onFiles={onFiles}>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 border-y border-rule bg-side px-3 py-3">
        <Button
          kind={main ? 'main' : 'plain'}
          icon={<Upload size={16} />}
          disabled={busy}
          onClick={() => input.current?.click()}
        >
          Open a file…
        </Button>
        <input
          ref={input}
          type="file"
          hidden
          multiple
          aria-label="Sealed files"
          accept={SEALED_TYPES}
          onChange={(event) => {
            const files = [...(event.target.files ?? [])];
            event.target.value = '';
            onFiles(files);
          }}
        />
        <span className="text-sm text-soft">{busy ? 'Opening…' : hint}</span>
      </div>
      <ul aria-live="polite" aria-label="What was opened">
        {outcomes.map(({ name, said, fault }, index) => (
          <li key={index} className="border-b border-rule px-3 py-2">
            <span className="block font-mono text-xs break-all text-soft">{name}</span>
            <span className={fault ? 'text-fault' : ''}>{said}</span>
          </li>
        ))}
      </ul>
    </DropFiles>
  );
}
