import type { LookingAt } from '@half-penny/core/capture';
import type { Pricer } from '@half-penny/core/billing';
import { clockOf, minuteOf } from '@half-penny/core/time';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { showShortDay } from '../../../parts/days';
import { Dialog } from '../../../parts/dialog';
import { Reading } from '../../../parts/figures';
import { captureWork, type BehindRow as Row, type LookBackQuery } from '../../../workers/capture';
import { minutesOf } from '../evidence';
import { nameOfKey } from './outcome-look';

interface BehindRowProps {
  pricer: Pricer;
  query: LookBackQuery;
  by: LookingAt;
  row: { key: string; name: string };
  onClose: () => void;
}

/** What a row is made of: the stretches it was in, each of which leads to its day. */
export function BehindRow({ pricer, query, by, row, onClose }: BehindRowProps) {
  const [rows, setRows] = useState<Row[]>();
  const { from, to, zone, book, only } = query;
  useEffect(() => {
    let left = false;
    void captureWork()
      .behindRow({ from, to, zone, book, only }, by, row.key)
      .then((found) => !left && setRows(found));
    return () => void (left = true);
  }, [from, to, zone, book, only, by, row.key]);
  return (
    <Dialog title={row.name} open onClose={onClose}>
      {!rows ? (
        <Reading />
      ) : (
        <div className="max-h-[60vh] overflow-auto" tabIndex={0} role="region" aria-label="Stretches">
          <table className="w-full text-sm">
            <thead>
              <tr className="border-b border-ink text-left text-xs text-soft">
                <th className="py-1 pr-3 font-semibold">Day</th>
                <th className="pr-3 font-semibold">When</th>
                <th className="pr-3 font-semibold">What</th>
                <th className="pr-3 font-semibold">Job</th>
                <th className="text-right font-semibold">Here</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((each) => (
                <tr key={`${each.id} ${each.start}`} className="border-b border-rule align-top">
                  <td className="py-1 pr-3 whitespace-nowrap">
                    <Link to={`/sift/day?day=${each.day}`} className="text-time hover:underline">
                      {showShortDay(each.day)}
                    </Link>
                  </td>
                  <td className="pr-3 font-mono whitespace-nowrap">
                    {clockOf(minuteOf(each.start, zone))}–{clockOf(minuteOf(each.end, zone))}
                  </td>
                  <td className="written pr-3 [overflow-wrap:anywhere]">{each.name}</td>
                  <td className="written pr-3">{nameOfKey(pricer, each.job)}</td>
                  <td className="text-right font-mono text-time">{minutesOf(each.seen)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </Dialog>
  );
}
