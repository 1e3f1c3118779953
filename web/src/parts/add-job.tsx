import type { Pricer } from '@half-penny/core/billing';
import { type Job } from '@half-penny/core/entries';
import { needText, projectColours, readAll } from '@half-penny/core/model';
import { readHourly } from '@half-penny/core/money';
import { readLength } from '@half-penny/core/time';
import { useState } from 'react';
import { useChanges } from '../data/session';
import { Button } from './button';
import { TextField } from './field';
import { SelectField } from './select';
import { useSubmit } from './use-submit';

const JOB_FIELDS = ['client', 'project', 'task', 'estimate', 'rate', 'service'];

interface AddJobProps {
  pricer: Pricer;
  /** What was typed and not found. */
  words: string;
  pick: (job: Job) => void;
  onBack: () => void;
}

/** Sets a job up where it is wanted: client, project and task, each there already or new, and a service that is missing. */
export function AddJob({ pricer, words, pick, onBack }: AddJobProps) {
  const { run } = useChanges();
  const clients = pricer.book.clients.filter((client) => !client.archived);
  const [clientId, setClientId] = useState(clients[0]?.id ?? 'new');
  const [clientName, setClientName] = useState('');
  const [projectId, setProjectId] = useState('new');
  const [projectName, setProjectName] = useState(words);
  const [task, setTask] = useState('');
  const [service, setService] = useState('');
  const [estimate, setEstimate] = useState('');
  const [rate, setRate] = useState('');
  const projects = pricer.book.projects.filter((project) => project.clientId === (clientId || null));
  const { fault, faults, submit } = useSubmit(async () => {
    const typed = readAll({
      client: () => (clientId === 'new' ? needText(clientName, 'Write what the client is called.') : ''),
      project: () => (projectId === 'new' ? needText(projectName, 'Write what the project is called.') : ''),
      estimate: () => (estimate.trim() && task.trim() ? readLength(estimate).seconds : null),
      rate: () => (rate.trim() && clientId !== '' ? readHourly(rate) : null),
    });
    const colour = projectColours[pricer.book.projects.length % projectColours.length]!;
    const row = await run('job.add', {
      client: clientId === 'new' ? { name: typed.client } : clientId === '' ? null : { id: clientId },
      project: projectId === 'new' ? { name: typed.project, jobNumber: '', colour } : { id: projectId },
      task,
      service,
      ...(typed.estimate === null ? {} : { estimate: typed.estimate }),
      ...(typed.rate === null ? {} : { rate: typed.rate }),
    });
    const idIn = (table: string) => row.changes.find((change) => change.table === table)?.id;
    pick({ projectId: idIn('projects') ?? projectId, taskId: idIn('tasks') ?? null, unlisted: '' });
  }, JOB_FIELDS);
  const chooseClient = (id: string) => {
    setClientId(id);
    setProjectId('new');
  };
  return (
    <form
      onSubmit={(event) => {
        // It may float over another form, which has nothing to do with this.
        event.stopPropagation();
        submit(event);
      }}
      className="flex flex-col gap-3 p-3"
      aria-label="Add a job"
    >
      <SelectField
        label="Client"
        autoFocus
        value={clientId}
        onPick={(picked) => chooseClient(picked)}
        options={[
          ...clients.map((client) => [client.id, client.name] as const),
          ['', 'None (internal)'],
          ['new', 'A new client…'],
        ]}
      />
      {clientId === 'new' && (
        <TextField
          label="New client"
          fault={faults.client}
          value={clientName}
          onChange={(event) => setClientName(event.target.value)}
        />
      )}
      <SelectField
        label="Project"
        value={projectId}
        onPick={(picked) => {
          setProjectId(picked);
          if (picked !== 'new' && !task) setTask(words);
        }}
        options={[
          ['new', 'A new project…'],
          ...projects.map((project) => [project.id, pricer.tree.pathOf(project.id)] as const),
        ]}
      />
      {projectId === 'new' && (
        <TextField
          label="New project"
          fault={faults.project}
          value={projectName}
          onChange={(event) => setProjectName(event.target.value)}
        />
      )}
      <TextField
        label="New task, if it needs one"
        fault={faults.task}
        value={task}
        onChange={(event) => setTask(event.target.value)}
      />
      <div className="flex gap-3">
        {task.trim() !== '' && (
          <TextField
            label="Estimate"
            fault={faults.estimate}
            placeholder="40 h"
            value={estimate}
            onChange={(event) => setEstimate(event.target.value)}
          />
        )}
        {clientId !== '' && (
          <TextField
            fault={faults.rate}
            label={`Rate an hour of the ${task.trim() ? 'task' : 'project'}`}
            placeholder="as its client’s"
            value={rate}
            onChange={(event) => setRate(event.target.value)}
          />
        )}
      </div>
      <TextField
        label="New service, if one is missing"
        fault={faults.service}
        value={service}
        onChange={(event) => setService(event.target.value)}
      />
      {fault && (
        <p role="alert" className="text-sm text-fault">
          {fault}
        </p>
      )}
      <div className="flex gap-2">
        <Button type="submit" kind="main">
          Add and use it
        </Button>
        <Button onClick={onBack}>Back</Button>
      </div>
    </form>
  );
}
