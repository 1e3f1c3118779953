import type { Pricer } from '@half-penny/core/billing';
import { tallyCurrency } from '@half-penny/core/costing';
import { whyClosed } from '@half-penny/core/entries';
import type { Project } from '@half-penny/core/model';
import { lazy, Suspense, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { usePricer } from '../../data/book';
import { useProjectMoney } from '../../data/project-money';
import { useMember } from '../../data/queries';
import { useTallies, useWorkRows } from '../../data/work';
import { Button } from '../../parts/button';
import { Loading, NotThere, Page, Section } from '../../parts/page';
import { PartsNav } from '../../parts/parts-nav';
import { anywhere, RateCard, type Place } from '../../parts/rate-card';
import { Slip } from '../../parts/slip';
import { Swatch } from '../../parts/swatch';
import { Budgets } from './budgets';
import { FinishDialog } from './finish-dialog';
import { Markups } from '../../parts/markups';
import { Milestones } from './milestones';
import { ProjectDetails } from './project-details';
import { ProjectFigures } from './project-figures';
import { ProjectMoney } from './project-money';
import { projectWorking } from './project-working';
import { Projects } from './projects';
import { LogTime, RecordOn } from './record-on';
import { Tasks } from './tasks';
import { useMoneySeen } from '../../data/rights';
import { HistoryButton } from '../../parts/history-button';

// It asks the trail, which no project needs to be shown.
const KnownBy = lazy(() => import('./known-by'));

/** One project: its tasks and parts with what they come to, its budget, and what its hours sell for. */
export default function ProjectPage() {
  const { projectId = '', part } = useParams();
  const pricer = usePricer();
  const project = pricer?.project.get(projectId);
  if (!pricer || !project) return <NotThere one="project" reading={!pricer} />;
  return <ProjectSheet key={project.id} pricer={pricer} project={project} part={part} />;
}

const parts = [
  { path: 'work', name: 'Work and rates' },
  { path: 'money', name: 'Money' },
] as const;

interface SheetProps {
  pricer: Pricer;
  project: Project;
  part: string | undefined;
}

function ProjectSheet({ pricer, project, part }: SheetProps) {
  const [finishing, setFinishing] = useState(false);
  const [logging, setLogging] = useState(false);
  const seen = useMoneySeen();
  const seesMoney = seen.worth && seen.cost;
  const member = useMember(pricer);
  const client = pricer.clientOf(project.id);
  const currency = tallyCurrency(pricer, project.id);
  const work = useWorkRows(
    useMemo(() => pricer.tree.downFrom(project.id).map((each) => each.id), [pricer, project.id]),
  );
  const tallies = useTallies(pricer, work);
  const money = useProjectMoney(pricer, project, work);
  const tasks = pricer.book.tasks.filter((task) => task.projectId === project.id);
  const places: Place[] = [
    { ...anywhere, projectId: project.id, name: `All of ${project.name.slice(0, 60)}` },
    ...tasks.map((task) => ({ ...anywhere, taskId: task.id, name: `Task: ${task.name.slice(0, 60)}` })),
  ];
  const taskIds = new Set(tasks.map((task) => task.id));
  const lines = pricer.book.rateLines.filter(
    (line) => line.projectId === project.id || (line.taskId !== null && taskIds.has(line.taskId)),
  );
  const subjects = useMemo(
    () => [
      { projectId: project.id, taskId: null, contractId: null, name: 'The project with its parts' },
      ...pricer.book.tasks
        .filter((task) => task.projectId === project.id)
        .map((task) => ({
          projectId: null,
          taskId: task.id,
          contractId: null,
          name: `Task: ${task.name.slice(0, 60)}`,
        })),
    ],
    [pricer, project.id],
  );
  const around = pricer.tree.upFrom(project.id).slice(1).reverse();
  const closed = whyClosed(pricer, project);
  return (
    <Page
      title={
        <span className="flex items-baseline gap-2">
          <Swatch colour={project.colour} /> {project.name}
        </span>
      }
      aside={[project.kind, closed ?? ''].filter(Boolean).join(', ')}
      actions={
        <>
          {!closed && (
            <RecordOn
              job={{ projectId: project.id, taskId: null, unlisted: '' }}
              name={project.name}
              onLog={() => setLogging(true)}
            />
          )}
          <Link
            to={`/time?project=${project.id}&from=2000-01-01`}
            className="px-2 text-time underline-offset-4 hover:underline"
          >
            All its time
          </Link>
          <Button onClick={() => setFinishing(true)}>{project.finished ? 'Bring back' : 'Finish'}</Button>
        </>
      }
      side={
        seen.worth &&
        seen.cost &&
        (tallies ? <Slip working={projectWorking(pricer, project, tallies, currency)} /> : <Loading />)
      }
    >
      <nav aria-label="Part of" className="-mt-2 mb-3 flex flex-wrap gap-x-2 text-soft">
        <Link to="/clients" className="hover:text-ink hover:underline">
          Clients
        </Link>
        {client && (
          <>
            <span aria-hidden>/</span>
            <Link to={`/clients/${client.id}`} className="written hover:text-ink hover:underline">
              {client.name}
            </Link>
          </>
        )}
        {around.map((each) => (
          <span key={each.id} className="flex gap-2">
            <span aria-hidden>/</span>
            <Link to={`/clients/project/${each.id}`} className="written hover:text-ink hover:underline">
              {each.name}
            </Link>
          </span>
        ))}
      </nav>
      {logging && <LogTime {...{ pricer, project }} onClose={() => setLogging(false)} />}
      <ProjectFigures
        {...{ pricer, project, tasks, work, tallies }}
        money={client && project.kind !== 'internal' && seesMoney ? money : null}
        rates={seen.worth}
      />
      {client && seesMoney && (
        <PartsNav label="About this project" base={`/clients/project/${project.id}`} parts={parts} current={part} />
      )}
      {client && part === 'money' && seesMoney ? (
        money ? (
          <ProjectMoney {...{ pricer, project, money }} />
        ) : (
          <Loading />
        )
      ) : (
        <>
          <Section title="Parts">
            <Projects pricer={pricer} clientId={project.clientId} parentId={project.id} work={work ?? null} />
          </Section>
          <Section title="Tasks">
            <Tasks {...{ pricer, project, tallies, currency }} />
          </Section>
          {member && (
            <Suspense fallback={<Loading />}>
              <KnownBy {...{ project, member }} />
            </Suspense>
          )}
          {project.kind !== 'internal' && client && seen.worth && (
            <RateCard {...{ pricer, lines, places, currency }} title="Rates" clientId={client.id} />
          )}
          <Section title="Milestones">
            <Milestones project={project} />
          </Section>
          {seen.worth && (
            <Section title="Budgets">
              <Budgets {...{ pricer, subjects, currency }} work={work ?? null} />
            </Section>
          )}
          {project.kind !== 'internal' && client && seen.worth && (
            <Markups
              pricer={pricer}
              markups={pricer.book.markups.filter((row) => row.projectId === project.id)}
              places={[{ ...anywhere, projectId: project.id, name: project.name }]}
            />
          )}
          <ProjectDetails pricer={pricer} project={project} />
          <HistoryButton pricer={pricer} table="projects" id={project.id} />
        </>
      )}
      {finishing && (
        <FinishDialog
          pricer={pricer}
          ids={[project.id]}
          finish={!project.finished}
          onClose={() => setFinishing(false)}
        />
      )}
    </Page>
  );
}
