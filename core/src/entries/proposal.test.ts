import { describe, expect, it } from 'vitest';
import type { Client, Contact, Project } from '../model/records';
import { proposeJob } from '.';

const client = (id: string, name: string, email: string) => ({ id, name, email, archived: false }) as Client;
const project = (id: string, clientId: string, name: string, jobNumber = '') =>
  ({ id, clientId, name, jobNumber, finished: false }) as Project;
const contact = (id: string, clientId: string, email: string, telephone: string, ...projectIds: string[]) =>
  ({ id, clientId, name: id, email, telephone, projectIds }) as Contact;
const book = {
  contacts: [
    contact('Maud Ferrier', 'quayside', 'maud@post.example', '01632 960 141', 'foyer'),
    contact('Stage door', 'quayside', '', '01632 960 140'),
    contact('Desk', 'fernhill', '', '01632 960 140'),
    contact('Keeper', 'fernhill', 'keeper@post.example', '141'),
  ],
  clients: [
    client('quayside', 'Quayside Playhouse', 'production@quayside-playhouse.example'),
    client('fernhill', 'Fernhill Folk Museum', 'exhibitions@fernhill-museum.example'),
    client('otterbourne', 'Otterbourne Town Council', ''),
  ],
  projects: [
    project('rig', 'quayside', 'Winter season rig', 'QP-26'),
    project('foyer', 'quayside', 'Foyer refresh'),
    project('gallery', 'fernhill', 'Museum gallery 3'),
    project('bridge', 'otterbourne', 'Footbridge lighting'),
  ],
};
const propose = (title: string, ...guests: string[]) => proposeJob({ title, guests }, book)?.projectId ?? null;

describe('the job an event is about', () => {
  it.each([
    ['QP-26: notes', 'rig'],
    ['Foyer refresh, walk round', 'foyer'],
    ['Call with Fernhill Folk', 'gallery'],
    ['footbridge lighting review', 'bridge'],
    ['Dentist', null],
    ['Museum trip with the children', null],
    ['', null],
  ])('of “%s” is %s', (title, projectId) => {
    expect(propose(title)).toBe(projectId);
  });

  it('is told by who is invited, and the title chooses between a client’s projects', () => {
    expect(propose('Notes', 'Stage door <door@quayside-playhouse.example>')).toBe('rig');
    expect(propose('Foyer', 'door@quayside-playhouse.example')).toBe('foyer');
    expect(propose('Notes', 'somebody@elsewhere.example')).toBeNull();
  });

  it('is told by a contact’s address or number, and by the project that this contact answers for', () => {
    expect(propose('Notes', 'Maud <Maud@post.example>')).toBe('foyer');
    expect(propose('Notes', '+44 1632 960141')).toBe('foyer');
    // What the title names goes before.
    expect(propose('QP-26', 'maud@post.example')).toBe('rig');
    expect(propose('Notes', 'keeper@post.example')).toBe('gallery');
    // A number that several share, and an extension, tell of nobody.
    expect(propose('Notes', '01632 960140')).toBeNull();
    expect(propose('Notes', '141')).toBeNull();
  });

  it('is none that is finished', () => {
    const finished = { ...book, projects: book.projects.map((each) => ({ ...each, finished: true })) };
    expect(proposeJob({ title: 'QP-26', guests: ['door@quayside-playhouse.example'] }, finished)).toBeNull();
  });

  it('comes with the reason', () => {
    expect(proposeJob({ title: 'Notes', guests: ['door@quayside-playhouse.example'] }, book)?.why).toBe(
      'door@quayside-playhouse.example is of Quayside Playhouse',
    );
  });
});
