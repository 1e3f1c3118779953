import { give, type Shelf } from './shelf';

const find = <T extends HTMLElement>(id: string): T => document.getElementById(id) as T;
const LOOPBACK = /^http:\/\/(?:127\.0\.0\.1|localhost)(?::\d+)?\/?$/;

function show(shelf: Shelf): void {
  const sites = Object.entries(shelf.sites).filter(([, until]) => until === 'never' || until > Date.now());
  find('none').hidden = sites.length > 0;
  find('sites').replaceChildren(
    ...sites.map(([site, until]) => {
      const line = document.createElement('li');
      const name = document.createElement('span');
      name.textContent = until === 'never' ? site : `${site}, until ${new Date(until).toTimeString().slice(0, 5)}`;
      const again = document.createElement('button');
      again.type = 'button';
      again.textContent = 'Record again';
      again.setAttribute('aria-label', `Record ${site} again`);
      again.addEventListener('click', () => void give({ order: 'site', site, until: null }).then(show));
      line.append(name, again);
      return line;
    }),
  );
}

function tell(text: string, isFault: boolean): void {
  find('told').textContent = text;
  find('told').className = isFault ? 'fault' : '';
}

const shelf = await give({ order: 'look' });
find<HTMLInputElement>('server').value = shelf.server;
find<HTMLInputElement>('key').value = shelf.key;
show(shelf);
if (shelf.key) tell(shelf.trouble || 'Paired.', shelf.trouble !== '');

find<HTMLFormElement>('pairing').addEventListener('submit', (event) => {
  event.preventDefault();
  const server = find<HTMLInputElement>('server').value.trim().replace(/#.*$/, '').replace('localhost', '127.0.0.1');
  if (!LOOPBACK.test(server))
    return tell('Half Penny is on this computer: its address is like http://127.0.0.1:4350.', true);
  tell('Asking…', false);
  void pair(server, find<HTMLInputElement>('key').value.trim());
});

async function pair(server: string, key: string): Promise<void> {
  // Firefox lets the person say so first.
  const granted = await chrome.permissions.request({ origins: ['http://127.0.0.1/*'] }).catch(() => true);
  if (!granted) return tell('Without leave to reach this computer nothing can be told to Half Penny.', true);
  const paired = await give({ order: 'pair', server, key });
  tell(paired.trouble || 'Paired.', paired.trouble !== '');
  show(paired);
}
