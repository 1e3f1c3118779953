import { Camera, Upload } from 'lucide-react';
import { useRef } from 'react';
import { Button } from './button';

interface FileButtonProps {
  /** What the button says. */
  label: string;
  /** What the file is, for assistive technology, where the button does not say it. */
  of?: string;
  /** Endings and media types, as browsers take them. */
  accept: string;
  onFile: (file: File) => void;
  kind?: 'main' | 'plain';
  /** Takes a picture with the camera at the back, where there is one. */
  camera?: boolean;
}

/** A button that asks for a file. The same file may be chosen again. */
export function FileButton({ label, of = label, accept, onFile, kind = 'plain', camera = false }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button
        kind={kind}
        icon={camera ? <Camera size={16} /> : <Upload size={16} />}
        onClick={() => input.current?.click()}
      >
        {label}
      </Button>
      <input
        ref={input}
        type="file"
        hidden
        {...(camera && { capture: 'environment' as const })}
        aria-label={of}
        accept={accept}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) onFile(file);
        }}
      />
    </>
  );
}
