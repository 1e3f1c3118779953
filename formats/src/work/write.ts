import type { Pricer } from '@half-penny/core/billing';
import type { Client, Project, Service, Task } from '@half-penny/core/model';
import Papa from 'papaparse';
import { harmless } from '../hours/harmless';
import { workFields, workHeads, type WorkField } from './csv-headings';

/** Every client, project, task and service as CSV (RFC 4180, CRLF), one a row; it comes back in as it went out. */
export function writeWork(pricer: Pricer): string {
  const { clients, projects, tasks, services } = pricer.book;
  const rows: Partial<Record<WorkField, string>>[] = [
    ...clients.map(ofClient),
    ...projects.map((project) => ofProject(pricer, project)),
    // Those that stand by themselves are the studio's own, and of no client's work.
    ...tasks.filter((task) => task.projectId !== null).map((task) => ofTask(pricer, task)),
    ...services.map(ofService),
  ];
  const lines = rows.map((row) => workFields.map((field) => harmless(row[field] ?? '')));
  return `${Papa.unparse([workFields.map((field) => workHeads[field]), ...lines], { newline: '\r\n' })}\r\n`;
}

const ofClient = ({ name, address, email, taxNumber, currency }: Client) => ({
  client: name,
  address,
  email,
  taxNumber,
  currency,
});

const placeOf = (pricer: Pricer, project: Project) => ({
  client: pricer.clientOf(project.id)?.name ?? '',
  project: pricer.tree.pathOf(project.id),
});

const stageOf = (pricer: Pricer, stageId: string | null): string =>
  stageId === null ? '' : (pricer.stage.get(stageId)?.name ?? '');

const ofProject = (pricer: Pricer, project: Project) => ({
  ...placeOf(pricer, project),
  jobNumber: project.jobNumber,
  kind: project.kind,
  stage: stageOf(pricer, project.stageId),
});

const ofTask = (pricer: Pricer, task: Task) => ({
  ...placeOf(pricer, pricer.project.get(task.projectId!)!),
  task: task.name,
  estimate: task.estimate === null ? '' : String(Math.round((task.estimate / 3600) * 10_000) / 10_000),
  stage: stageOf(pricer, task.stageId),
});

const ofService = ({ name, code }: Service) => ({ service: name, code });
