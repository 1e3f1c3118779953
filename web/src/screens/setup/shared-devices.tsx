import type { Pricer } from '@half-penny/core/billing';
import type { Share } from '@half-penny/core/shared-log';
import { useState } from 'react';
import type { SharedBook } from '../../data/database';
import { useMember } from '../../data/queries';
import { useChanges, useSession } from '../../data/session';
import { editBook, useShare } from '../../data/sharing/book';
import { useDevices, type DeviceHeard } from '../../data/sharing/devices';
import { Button } from '../../parts/button';
import { showMoment, showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading } from '../../parts/page';
import { SavedSelect } from '../../parts/select';
import { shareWords } from '../../parts/share-words';
import { dayOf } from '@half-penny/core/time';
import { EndDialog } from './end-dialog';
import { MeetDialog } from './meet-dialog';
import { RefusedList } from './refused-list';
import { RemoveDialog } from './remove-dialog';

interface SharedDevicesProps {
  pricer: Pricer;
  shared: SharedBook;
  setsUp: boolean;
}

/** A workspace that is shared: how it stands, which devices it is on, what waits and what did not fit. */
export function SharedDevices({ pricer, shared, setsUp }: SharedDevicesProps) {
  const share = useShare();
  const devices = useDevices();
  const zone = useMember(pricer)?.zone ?? pricer.book.workspace.zone;
  const { entry } = useSession();
  const [open, setOpen] = useState<'meet' | 'end' | DeviceHeard | null>(null);
  const close = () => setOpen(null);
  if (!share || !devices) return <Loading />;
  return (
    <div className="border-t border-ink pt-3">
      <How {...{ shared, share, zone }} />
      {share.refused.length > 0 && <RefusedList refused={share.refused} zone={zone} />}
      <Table {...{ devices, zone, setsUp }} onRemove={setOpen} />
      {setsUp && !shared.removed && (
        <Button kind="main" className="mt-3" onClick={() => setOpen('meet')}>
          Meet a device
        </Button>
      )}
      {share.waiting.length > 0 && <WaitingList {...{ share, zone }} />}
      <div className="mt-8 flex flex-wrap items-start gap-x-8 gap-y-4">
        <SavedSelect
          label="Receipts come"
          value={shared.receipts}
          options={[
            ['when looked at', 'when they are looked at'],
            ['all', 'all in advance'],
          ]}
          save={(receipts) => editBook(entry.id, (row) => (row.receipts = receipts as SharedBook['receipts']))}
          className="w-60"
        />
        <dl className="min-w-64 flex-1 text-sm">
          <dt className="text-xs font-semibold text-soft">How far the log is here</dt>
          <dd className="font-mono">
            {share.head.number.toLocaleString('en-GB')} · {share.head.hash.slice(0, 8) || 'nothing yet'}
          </dd>
          <dd className="text-soft">
            Where another device says the same, both have the same. Relay:{' '}
            <span className="font-mono">{shared.relay}</span>
          </dd>
        </dl>
      </div>
      <p className="mt-6 text-sm">
        <Button kind="quiet" className="-ml-1" onClick={() => setOpen('end')}>
          Go on alone on this device
        </Button>
      </p>
      {open === 'meet' && <MeetDialog relay={shared.relay} onClose={close} />}
      {open === 'end' && <EndDialog waiting={share.waiting.length} onClose={close} />}
      {open !== null && typeof open === 'object' && <RemoveDialog device={open.device} onClose={close} />}
    </div>
  );
}

/** How it stands, in words, and what that means. */
function How({ shared, share, zone }: { shared: SharedBook; share: Share; zone: string }) {
  const { standing, removed } = shared;
  const words = shareWords(shared, share.waiting.length, share.refused.length, zone);
  const means = removed
    ? 'The relay does not let this device in: another one removed it, or the relay has lost what it had. What is here stays here, and is not sent any more.'
    : standing.kind === 'together'
      ? 'What is done here is on the other devices as soon as they are on line.'
      : standing.kind === 'off line'
        ? 'Everything works but what others see: issuing, crediting, voiding and closing wait until the relay is reached.'
        : standing.why;
  const again = () =>
    void editBook(shared.id, (row) => {
      row.standing = { kind: 'off line', since: Date.now() };
      delete row.removed;
    });
  return (
    <div role="status" className="mb-5 max-w-2xl px-2">
      <p className={`text-lg font-semibold ${standing.kind === 'stopped' || removed ? 'text-fault' : ''}`}>
        {words[0]!.toUpperCase() + words.slice(1)}
      </p>
      <p className="text-soft">{means}</p>
      {(standing.kind === 'stopped' || removed) && (
        <Button className="mt-2" onClick={again}>
          Try again
        </Button>
      )}
    </div>
  );
}

function Table({
  devices,
  zone,
  setsUp,
  onRemove,
}: {
  devices: readonly DeviceHeard[];
  zone: string;
  setsUp: boolean;
  onRemove: (device: DeviceHeard) => void;
}) {
  const { run } = useChanges();
  const columns: Column<DeviceHeard>[] = [
    {
      key: 'name',
      head: 'Device',
      width: 'minmax(0,1fr)',
      cell: ({ device, isThis }) => (
        <span className="written clamp-2">
          {device.name}
          {isThis && <span className="ml-2 text-sm font-semibold whitespace-nowrap text-time">this one</span>}
        </span>
      ),
      ...(setsUp && {
        edit: {
          text: ({ device }) => device.name,
          save: ({ device }, name) => run('device.rename', { id: device.id, name }),
        },
      }),
    },
    {
      key: 'heard',
      head: 'Last heard',
      width: '180px',
      cell: ({ heard, isThis }) =>
        isThis ? (
          <span className="text-soft">here</span>
        ) : heard === null ? (
          <span className="text-soft">not yet</span>
        ) : (
          showMoment(heard, zone)
        ),
    },
    {
      key: 'since',
      head: 'Met',
      width: '110px',
      wideOnly: true,
      cell: ({ device }) => showShortDay(dayOf(device.since, zone)),
    },
    {
      key: 'remove',
      head: 'Remove',
      quietHead: true,
      width: '96px',
      align: 'end',
      cell: (row) =>
        setsUp && !row.isThis ? (
          <Button kind="quiet" onClick={() => onRemove(row)} aria-label={`Remove ${row.device.name}`}>
            Remove
          </Button>
        ) : null,
    },
  ];
  return (
    <Ledger
      label="Devices"
      rows={devices}
      rowId={({ device }) => device.id}
      rowName={({ device }) => device.name}
      columns={columns}
      empty="No devices yet."
    />
  );
}

const SHOWN = 20;

function WaitingList({ share, zone }: { share: Share; zone: string }) {
  const more = share.waiting.length - SHOWN;
  return (
    <section aria-label="Waiting" className="mt-8">
      <h3 className="mb-1 font-semibold">Waiting to be sent</h3>
      <ul className="border-t border-ink">
        {share.waiting.slice(0, SHOWN).map(({ op, title, at, seq }) => (
          <li key={op} className="flex flex-wrap gap-x-4 border-b border-rule px-2 py-1.5">
            <span className="min-w-0 flex-1">{title}</span>
            {seq === null && <span className="text-attention">done when connected</span>}
            <span className="text-soft">{showMoment(at, zone)}</span>
          </li>
        ))}
      </ul>
      {more > 0 && <p className="px-2 py-1 text-soft">and {more.toLocaleString('en-GB')} more</p>}
    </section>
  );
}
