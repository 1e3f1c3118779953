import { useEffect, useState, type DragEvent, type ReactNode } from 'react';

/** Where files can be dropped; anywhere on it, with a mark while something hangs over it. */
export function DropFiles({ onFiles, children }: { onFiles: (files: File[]) => void; children: ReactNode }) {
  const [over, setOver] = useState(false);
  const holdsFiles = (event: DragEvent) => event.dataTransfer.types.includes('Files');
  return (
    <div
      className={over ? 'outline-2 outline-offset-4 outline-time outline-dashed' : ''}
      onDragOver={(event) => {
        if (!holdsFiles(event)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        if (!holdsFiles(event)) return;
        event.preventDefault();
        setOver(false);
        onFiles([...event.dataTransfer.files]);
      }}
    >
      {children}
    </div>
  );
}

/** Files that are pasted anywhere on the screen, such as a picture that was copied. */
export function usePastedFiles(onFiles: (files: File[]) => void): void {
  useEffect(() => {
    const take = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])];
      if (files.length === 0) return;
      event.preventDefault();
      onFiles(files);
    };
    window.addEventListener('paste', take);
    return () => window.removeEventListener('paste', take);
  }, [onFiles]);
}
