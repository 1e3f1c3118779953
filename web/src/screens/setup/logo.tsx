import { usePicture } from '../../data/queries';
import { Fault, type Picture, type Workspace } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { pictureAddress } from '@half-penny/documents';
import { useState } from 'react';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { FileButton } from '../../parts/file-button';

const LARGEST = 300_000;
const KINDS = { 'image/png': [0x89, 0x50, 0x4e, 0x47], 'image/jpeg': [0xff, 0xd8, 0xff] } as const;

/** The picture at the head of invoices from now on. */
export function Logo({ workspace }: { workspace: Workspace }) {
  const { run, attempt } = useChanges();
  const [fault, setFault] = useState<string>();
  const { logoId } = workspace;
  const logo = usePicture(logoId);
  const take = async (file: File) => {
    try {
      await run('workspace.logo', { picture: await pictureOf(file) });
      setFault(undefined);
    } catch (thrown) {
      setFault(wordsOf(thrown));
    }
  };
  return (
    <div className="md:col-span-2">
      <h2 className="mb-1 text-xs font-semibold text-soft">Logo</h2>
      <div className="flex flex-wrap items-center gap-4">
        {logo && (
          <img
            src={pictureAddress(logo)}
            alt={`Logo of ${workspace.name}`}
            className="max-h-16 max-w-52 border border-rule p-1"
          />
        )}
        <FileButton
          label={logo ? 'Another picture…' : 'Choose a picture…'}
          of="Logo"
          accept=".png,.jpg,.jpeg,image/png,image/jpeg"
          onFile={(file) => void take(file)}
        />
        {logo && (
          <Button kind="quiet" onClick={() => void attempt('workspace.logo', { picture: null })}>
            Take it off
          </Button>
        )}
      </div>
      {fault && (
        <p role="alert" className="mt-1 text-sm text-fault">
          {fault}
        </p>
      )}
      <p className="mt-1 text-xs text-soft">
        Printed at the head of invoices from now on, for example 600 × 200 pixels. Those that were issued keep what they
        had.
      </p>
    </div>
  );
}

/** A file as a picture. @throws Fault where it is no PNG or JPEG, or too large */
async function pictureOf(file: File): Promise<Omit<Picture, 'id'>> {
  if (file.size > LARGEST) {
    throw new Fault(
      'too-large',
      `${file.name} has ${Math.ceil(file.size / 1000)} kB; a logo has at most 300 kB. Save it smaller.`,
    );
  }
  const bytes = new Uint8Array(await file.arrayBuffer());
  const kind = Object.entries(KINDS).find(([, start]) => start.every((byte, index) => bytes[index] === byte));
  if (!kind) throw new Fault('other-file', `${file.name} is neither a PNG nor a JPEG picture.`);
  let binary = '';
  for (const byte of bytes) binary += String.fromCharCode(byte);
  return { mediaType: kind[0] as Picture['mediaType'], data: btoa(binary) };
}
