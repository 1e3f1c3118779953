import { describe, expect, it } from 'vitest';
import type { Client, Contact, Project } from '../model/records';
import { JobFinder } from '.';

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
const finder = new JobFinder(book, 'GB');
const propose = (title: string, ...guests: string[]) => finder.propose({ title, guests })?.projectId ?? null;

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

  it('is told by a number in whichever form, by the country of the client', () => {
    const danish = { ...client('havn', 'Havnelys', 'post@havnelys.example'), taxPlace: 'DK' };
    const numbers = new JobFinder(
      {
        clients: [...book.clients, danish],
        projects: [...book.projects, project('pier', 'havn', 'Pier lamps')],
        contacts: [contact('Mads', 'havn', '', '32 12 34 56')],
      },
      'GB',
    );
    expect(numbers.propose({ title: 'Call', guests: ['+45 32123456'] })?.projectId).toBe('pier');
    expect(numbers.propose({ title: 'Call', guests: ['32123456'] })?.projectId).toBe('pier');
    expect(numbers.propose({ title: 'Call', guests: ['+44 32123456'] })).toBeNull();
  });

  it('is told by the domain of a client or its contacts, also of a page, unless anybody or several have addresses there', () => {
    const known = {
      ...book,
      clients: [...book.clients, client('bramble', 'Bramble Street', 'bramble@gmail.com')],
      projects: [...book.projects, project('stall', 'bramble', 'Stall lights')],
      contacts: [
        contact('Iris', 'otterbourne', 'iris@otterbourne.example', ''),
        contact('Both one', 'fernhill', 'one@shared-house.example', ''),
        contact('Both two', 'bramble', 'two@shared-house.example', ''),
      ],
    };
    const finder = new JobFinder(known, 'GB');
    const of = (guest: string, site = '') => finder.propose({ title: '', guests: [guest], site })?.projectId ?? null;
    expect(of('clerk@otterbourne.example')).toBe('bridge');
    expect(of('someone@gmail.com')).toBeNull();
    expect(of('bramble@gmail.com')).toBeNull();
    expect(of('new@shared-house.example')).toBeNull();
    expect(of('', 'tickets.quayside-playhouse.example')).toBe('rig');
    expect(of('', 'playhouse.example')).toBeNull();
  });

  it('leaves open which of a client’s projects it is where nothing tells', () => {
    expect(finder.lead({ title: 'Notes', guests: ['door@quayside-playhouse.example'] })?.projectIds).toEqual([
      'rig',
      'foyer',
    ]);
    expect(finder.lead({ title: 'Foyer', guests: ['door@quayside-playhouse.example'] })?.projectIds).toEqual(['foyer']);
  });

  it('is none that is finished', () => {
    const finished = { ...book, projects: book.projects.map((each) => ({ ...each, finished: true })) };
    expect(new JobFinder(finished).propose({ title: 'QP-26', guests: ['door@quayside-playhouse.example'] })).toBeNull();
  });

  it('comes with the reason', () => {
    expect(finder.propose({ title: 'Notes', guests: ['door@quayside-playhouse.example'] })?.why).toBe(
      'door@quayside-playhouse.example is of Quayside Playhouse',
    );
  });
});
