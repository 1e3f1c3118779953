import { useAll } from '../../data/read';
import type { Pricer } from '@half-penny/core/billing';
import { fallsUnder, nameOf, projectsUnder, standingOfBudget } from '@half-penny/core/costing';
import type { Budget, Timer } from '@half-penny/core/model';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useToday } from '../../data/queries';
import { useWorkRows } from '../../data/work';

/** Says that the budget of what runs has passed the share at which it wants attention. */
export default function BudgetSign({ pricer, timer }: { pricer: Pricer; timer: Timer }) {
  const budgets = useAll('budgets');
  const own = useMemo(
    () => (budgets ?? []).filter((budget) => fallsUnder(pricer, budget, timer)),
    [budgets, pricer, timer],
  );
  if (own.length === 0) return null;
  return <Sign pricer={pricer} budgets={own} />;
}

function Sign({ pricer, budgets }: { pricer: Pricer; budgets: readonly Budget[] }) {
  const today = useToday();
  const projectIds = useMemo(
    () => [...new Set(budgets.flatMap((budget) => projectsUnder(pricer, budget)))],
    [budgets, pricer],
  );
  const rows = useWorkRows(projectIds);
  const worst = useMemo(() => {
    if (!rows) return null;
    const shares = budgets.map((budget) => {
      const standing = standingOfBudget(pricer, budget, rows.entries, rows.allocations, today);
      return { standing, percent: Math.max(standing.hours?.percent ?? 0, standing.money?.percent ?? 0) };
    });
    return shares.filter(({ standing }) => standing.notice).sort((a, b) => b.percent - a.percent)[0] ?? null;
  }, [rows, budgets, pricer, today]);
  if (!worst) return null;
  const { budget } = worst.standing;
  const projectId = budget.projectId ?? (budget.taskId ? pricer.task.get(budget.taskId)?.projectId : undefined);
  const clientId = budget.contractId ? pricer.contract.get(budget.contractId)?.clientId : undefined;
  return (
    <Link
      to={projectId ? `/clients/project/${projectId}` : `/clients/${clientId}`}
      className="shrink-0 max-md:order-2 rounded-md bg-attention-ground px-2 py-1 text-xs font-semibold text-attention"
      title={`The budget of ${nameOf(pricer, budget)}`}
    >
      <span className="sr-only">The budget of {nameOf(pricer, budget).slice(0, 80)} is used to </span>
      <span aria-hidden>Budget </span>
      {worst.percent} %
    </Link>
  );
}
