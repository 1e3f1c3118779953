import type { Pricer } from '@half-penny/core/billing';
import { tallyCurrency } from '@half-penny/core/costing';
import type { Id } from '@half-penny/core/model';
import { useMemo } from 'react';
import { useChanges } from '../../data/session';
import { useTallies, useWorkRows } from '../../data/work';
import { ClosingDialog } from './closing-dialog';

interface FinishDialogProps {
  pricer: Pricer;
  ids: readonly Id[];
  finish: boolean;
  onClose: () => void;
}

/** Finishes projects or brings them back. */
export function FinishDialog({ pricer, ids, finish, onClose }: FinishDialogProps) {
  const { run } = useChanges();
  const projectIds = useMemo(
    () => [...new Set(ids.flatMap((id) => pricer.tree.downFrom(id).map((project) => project.id)))],
    [ids, pricer],
  );
  const tallies = useTallies(pricer, useWorkRows(projectIds));
  const open = tallies
    ? ids.map((id) => ({
        name: pricer.tree.pathOf(id),
        minor: tallies.rolled.get(id)?.toBill ?? 0,
        currency: tallyCurrency(pricer, id),
      }))
    : undefined;
  const what = ids.length === 1 ? pricer.tree.pathOf(ids[0]!) : `${ids.length} projects`;
  const verb = finish ? 'Finish' : 'Bring back';
  return (
    <ClosingDialog
      title={`${verb} ${what}`}
      about={
        finish
          ? 'Finished work leaves the pickers at once and stays in reports. What is to bill stays to bill.'
          : 'It is offered in the pickers again.'
      }
      verb={verb}
      many={ids.length > 1}
      open={finish ? open : null}
      run={() => run('project.finish', { ids: [...ids], finished: finish })}
      onClose={onClose}
    />
  );
}
