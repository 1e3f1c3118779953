// What the simulated tracker holds when it is first asked: the board on which the studio's clients note what is to be done.

/** A task as the tracker holds it. */
export interface TrackerTask {
  id: string;
  project: { id: string; name: string };
  number: string;
  title: string;
  assignee: string | null;
  state: string;
  /** Seconds. */
  estimate: number | null;
  closed: boolean;
  address: string;
}

/** A client as the tracker's address list holds it. */
export interface TrackerClient {
  id: string;
  name: string;
  address: string;
  email: string;
  taxNumber: string;
  gone: boolean;
}

const BOARD = 'https://board.saltmere-lighting.example';

/** States of a task, in the order they come; the last closes it. */
export const trackerStates = ['To do', 'In progress', 'To be looked at', 'Done'] as const;

const projects = {
  WSR: 'Winter season rig',
  GAL: 'Gallery 3',
  FBL: 'Footbridge lighting',
} as const;
type Key = keyof typeof projects;

/** Project, title, whose, state, hours. */
const tasks: readonly (readonly [Key, string, string | null, (typeof trackerStates)[number], number | null])[] = [
  ['WSR', 'Refocus the front of house bridge', 'Teodor Lund', 'In progress', 6],
  ['WSR', 'Renumber the dimmers on plot sheet 4', 'Asha Quill', 'To do', 3],
  ['WSR', 'Gel list for the spring changeover', 'Imogen Vale', 'To be looked at', 2],
  ['WSR', 'Cue stack for the matinee', 'Asha Quill', 'In progress', 8],
  ['WSR', 'Strike the autumn specials', null, 'Done', 4],
  ['WSR', 'Emergency lighting check with the stage door', null, 'To do', null],
  ['GAL', 'Lux readings for the textile case', 'Teodor Lund', 'In progress', 5],
  ['GAL', 'Drawing of the track in bay 2', 'Teodor Lund', 'To do', 7],
  ['GAL', 'Programme the closing time fade', 'Asha Quill', 'To do', 2.5],
  ['GAL', 'Sample fittings back to the supplier', null, 'Done', 1],
  ['FBL', 'Handrail detail, section C', 'Teodor Lund', 'To be looked at', 9],
  ['FBL', 'Night test with the council', 'Imogen Vale', 'To do', 4],
  ['FBL', 'Answer the resident’s letter on glare', 'Imogen Vale', 'In progress', 1],
];

/** The tasks that the tracker begins with. */
export function trackerTasks(): TrackerTask[] {
  const counts = new Map<Key, number>();
  return tasks.map(([project, title, assignee, state, hours]) => {
    const count = (counts.get(project) ?? 20) + 1;
    counts.set(project, count);
    const number = `${project}-${count}`;
    return {
      id: `board-${number.toLowerCase()}`,
      project: { id: `board-${project.toLowerCase()}`, name: projects[project] },
      number,
      title,
      assignee,
      state,
      estimate: hours === null ? null : hours * 3600,
      closed: state === 'Done',
      address: `${BOARD}/${project.toLowerCase()}/${count}`,
    };
  });
}

/** The clients that its address list begins with. */
export const trackerClients = (): TrackerClient[] => [
  {
    id: 'board-c1',
    name: 'Quayside Playhouse',
    address: '2 Quayside\nSaltmere',
    email: 'office@quayside-playhouse.example',
    taxNumber: '',
    gone: false,
  },
  {
    id: 'board-c2',
    name: 'Fernhill Folk Museum',
    address: 'Fernhill House\nFernhill Lane\nSaltmere',
    email: 'estates@fernhill-museum.example',
    taxNumber: '',
    gone: false,
  },
  {
    id: 'board-c3',
    name: 'Saltmere Harbour Trust',
    address: 'The Customs Shed\nSaltmere',
    email: 'works@saltmere-harbour.example',
    taxNumber: '',
    gone: false,
  },
];
