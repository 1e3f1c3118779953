import { useBy } from '../../data/read';
import type { Pricer } from '@half-penny/core/billing';
import { lacksReceipt } from '@half-penny/core/billing';
import { costAmounts, dueDayOf } from '@half-penny/core/costs';
import { readTags, showTags, tagsOf, type Cost, type CostLine } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { isOwed } from '@half-penny/core/paying-out';
import { amountFigure, textFigure, type Working } from '@half-penny/core/rates';
import { Link, useNavigate, useParams } from 'react-router';
import { useCost } from '../../data/costs';
import { usePricer } from '../../data/book';
import { useKeepReceipts, useReceipts } from '../../data/receipts';
import { useChanges } from '../../data/session';
import { Check } from '../../parts/check';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { SavedField } from '../../parts/field';
import { SavedSelect, type Option } from '../../parts/select';
import { Loading, Page, Section } from '../../parts/page';
import { DropFiles, usePastedFiles } from '../../parts/drop-files';
import { ReceiptStrip } from '../../parts/receipts';
import { Slip } from '../../parts/slip';
import { taxOptions } from '../../parts/tax-options';
import { kindNames } from './cost-columns';
import { CostLines } from './cost-lines';
import { PaidOfCost } from './paid-of-cost';
import { WhatItPays } from './what-it-pays';
import { HistoryButton } from '../../parts/history-button';

/** One cost: its head, its lines over projects and cost codes, and its receipts. */
export default function CostPage() {
  const { costId = '' } = useParams();
  const pricer = usePricer();
  const found = useCost(costId);
  if (!pricer || found === undefined)
    return (
      <Page title="Cost">
        <Loading />
      </Page>
    );
  if (!found)
    return (
      <Page title="Cost">
        <p className="text-soft">
          There is no such cost; one that was deleted is gone from here.{' '}
          <Link to="/costs" className="text-time underline">
            All costs
          </Link>
        </p>
      </Page>
    );
  return <CostSheet key={costId} pricer={pricer} cost={found.cost} lines={found.lines} />;
}

function CostSheet({ pricer, cost, lines }: { pricer: Pricer; cost: Cost; lines: CostLine[] }) {
  const { attempt } = useChanges();
  const navigate = useNavigate();
  const keeping = useKeepReceipts();
  const receipts = useReceipts(cost.receiptIds) ?? [];
  const take = (files: File[], photo = false) => void keeping.keep(files, [cost.id], photo);
  usePastedFiles((files) => take(files));
  const remove = async () => {
    if (await attempt('cost.remove', { ids: [cost.id] })) void navigate('/costs');
  };
  return (
    <Page
      title={cost.supplier || kindNames[cost.kind]}
      aside={kindNames[cost.kind].toLowerCase()}
      actions={<Button onClick={() => void remove()}>Delete</Button>}
      side={<Slip working={costWorking(pricer, cost, lines)} />}
    >
      {cost.since && (
        <p className="mb-4 border-l-[3px] border-attention bg-attention-ground px-3 py-2 text-attention">
          {cost.since.withdrawn
            ? 'The bookkeeping has withdrawn this since it was billed.'
            : `The bookkeeping says ${showAmount(cost.since.amount, cost.currency)} since this was billed.`}{' '}
          It stays as it was billed; credit the invoice if the client paid too much.
        </p>
      )}
      <Section title="Lines">
        <CostLines pricer={pricer} cost={cost} lines={lines} />
      </Section>
      <Section title="Receipts">
        <NoReceipt {...{ pricer, cost, lines }} />
        <DropFiles onFiles={(files) => take(files)}>
          <ReceiptStrip
            receipts={receipts}
            keeping={keeping}
            onFiles={take}
            onRemove={(receipt) =>
              void attempt('cost.edit', { id: cost.id, receiptIds: cost.receiptIds.filter((id) => id !== receipt.id) })
            }
          />
        </DropFiles>
      </Section>
      {isOwed(cost) && <PaidOfCost pricer={pricer} cost={cost} />}
      {cost.kind === 'ledger' && cost.source !== '' && <WhatItPays {...{ pricer, cost, lines }} />}
      <Section title="About it">
        <Head pricer={pricer} cost={cost} lines={lines} />
      </Section>
      <HistoryButton pricer={pricer} table="costs" id={cost.id} />
    </Page>
  );
}

/** That a receipt is missing above the studio's limit, and why there is none. */
function NoReceipt({ pricer, cost, lines }: { pricer: Pricer; cost: Cost; lines: readonly CostLine[] }) {
  const { run } = useChanges();
  const { workspace } = pricer.book;
  const asked = lacksReceipt(pricer, { ...cost, noReceipt: '' }, lines);
  if (!asked && !cost.noReceipt) return null;
  const open = lacksReceipt(pricer, cost, lines);
  return (
    <div className="mb-3 flex flex-wrap items-end gap-3">
      {open && (
        <p className="border-l-[3px] border-attention bg-attention-ground px-3 py-2 text-attention">
          This is above {showAmount(workspace.receiptOver!, workspace.currency)} and has no receipt.
          {workspace.receiptPolicy === 'require' && ' It cannot be invoiced without one, or a reason.'}
        </p>
      )}
      <SavedField
        label="Why there is no receipt"
        value={cost.noReceipt ?? ''}
        save={(noReceipt) => run('cost.edit', { id: cost.id, noReceipt: noReceipt.trim() })}
        className="min-w-64 flex-1"
      />
    </div>
  );
}

function Head({ pricer, cost, lines }: { pricer: Pricer; cost: Cost; lines: readonly CostLine[] }) {
  const { run, attempt } = useChanges();
  const save = (fields: Partial<Omit<Cost, 'id'>>) => run('cost.edit', { id: cost.id, ...fields });
  const projectIds = [...new Set(lines.map((line) => line.projectId).filter((id) => id !== null))];
  const key = projectIds.join();
  const milestones = useBy('milestones', 'projectId', key ? key.split(',') : []) ?? [];
  const due = dueDayOf(cost, (id) => milestones.find((row) => row.id === id));
  const tick = (label: string, field: 'taxIncluded' | 'taxReclaimed' | 'owedBack') => (
    <label className="flex items-center gap-2">
      <Check checked={cost[field]} save={(checked) => attempt('cost.edit', { id: cost.id, [field]: checked })} />
      {label}
    </label>
  );
  return (
    <div className="grid gap-4 pt-2 md:grid-cols-2">
      <SavedField label="Supplier" value={cost.supplier} save={(supplier) => save({ supplier })} />
      <SavedField label="Day" value={cost.day} save={(day) => save({ day: day.trim() })} />
      <SavedField label="Their number" value={cost.reference} save={(reference) => save({ reference })} />
      <SavedField
        label="Currency"
        value={cost.currency}
        save={(currency) => save({ currency: currency.trim().toUpperCase() })}
      />
      <SavedSelect
        label="Tax on it"
        value={cost.taxId ?? ''}
        options={[['', 'No tax'], ...taxOptions(pricer)]}
        save={(taxId) => save({ taxId: taxId || null })}
      />
      <div className="flex flex-col justify-end gap-1 text-sm">
        {tick('The tax is in the amounts', 'taxIncluded')}
        {tick('The tax is claimed back, so it is no cost', 'taxReclaimed')}
      </div>
      {cost.kind === 'expense' && (
        <>
          <SavedSelect
            label="Who paid"
            value={cost.memberId ?? ''}
            options={[['', 'The studio'], ...pricer.book.members.map((member): Option => [member.id, member.name])]}
            save={(memberId) => save({ memberId: memberId || null })}
          />
          <div className="flex flex-col justify-end gap-1 text-sm">{tick('Owed back to who paid', 'owedBack')}</div>
        </>
      )}
      {cost.kind === 'bill' && (
        <>
          <SavedSelect
            label="Due"
            value={cost.dueMilestoneId ?? ''}
            options={[
              ['', 'on a day of its own'],
              ...milestones.map((row): Option => [row.id, `with the milestone ${row.name}, ${showShortDay(row.day)}`]),
            ]}
            save={(id) => save({ dueMilestoneId: id || null })}
          />
          {cost.dueMilestoneId === null ? (
            <SavedField
              label="Due day"
              value={cost.dueDay ?? ''}
              save={(day) => save({ dueDay: day.trim() || null })}
            />
          ) : (
            <SavedField
              label="Days after it"
              inputMode="numeric"
              value={String(cost.dueAfter)}
              hint={due ? `Due ${showShortDay(due)}, and moves with the milestone` : undefined}
              save={(days) => save({ dueAfter: Number(days) })}
            />
          )}
        </>
      )}
      <SavedField
        label="Tags"
        hint="With commas between"
        value={showTags(tagsOf(cost))}
        save={(text) => save({ tags: readTags(text) })}
      />
      <SavedField label="Note" lines={2} value={cost.note} save={(note) => save({ note })} className="md:col-span-2" />
    </div>
  );
}

function costWorking(pricer: Pricer, cost: Cost, lines: readonly CostLine[]): Working {
  const tax = cost.taxId === null ? undefined : pricer.tax.get(cost.taxId);
  const sums = costAmounts(lines, cost, tax, pricer.book.workspace.amountRounding);
  return {
    title: cost.supplier || kindNames[cost.kind],
    steps: [
      { label: 'Lines', figure: textFigure(String(lines.length)) },
      { label: 'Net', figure: amountFigure(sums.net, cost.currency) },
      ...(tax ? [{ label: `${tax.name} ${tax.percent} %`, figure: amountFigure(sums.tax, cost.currency) }] : []),
      { label: 'To pay', figure: amountFigure(sums.gross, cost.currency), ruled: true },
    ],
    result: {
      label: !tax ? 'Cost' : cost.taxReclaimed ? 'Cost, without tax' : 'Cost, with tax',
      figure: amountFigure(sums.cost, cost.currency),
    },
  };
}
