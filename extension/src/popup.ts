import { siteOf } from '@half-penny/core/capture';
import { isTold } from './follower';
import { isOut } from './keeping';
import { give, type Order, type Shelf } from './shelf';

const HOUR = 3_600_000;
const find = <T extends HTMLElement>(id: string): T => document.getElementById(id) as T;

const [tab] = await chrome.tabs.query({ active: true, currentWindow: true });
const site = tab?.url && isTold(tab.url) ? siteOf(tab.url) : '';

function show(shelf: Shelf): void {
  const waits = shelf.lines.length;
  find('standing').textContent =
    shelf.trouble ||
    (shelf.welcome?.recording.paused
      ? 'Recording is paused in Half Penny.'
      : waits > 0
        ? `${waits} to be sent.`
        : 'Recording.');
  find('standing').className = shelf.trouble ? 'fault' : 'soft';
  find('pause').textContent = shelf.paused ? 'Record again' : 'Pause';
  find('pause').setAttribute('aria-pressed', String(shelf.paused));
  const out = isOut(shelf.sites, site, Date.now());
  find('site').textContent = site;
  for (const id of ['hour', 'never']) find(id).hidden = site === '' || out;
  find('again').hidden = !out;
}

let now = await give({ order: 'look' });
show(now);
const does = (id: string, order: () => Order) =>
  find(id).addEventListener('click', () => void give(order()).then((shelf) => show((now = shelf))));
does('pause', () => ({ order: 'pause', paused: !now.paused }));
does('hour', () => ({ order: 'site', site, until: Date.now() + HOUR }));
does('never', () => ({ order: 'site', site, until: 'never' }));
does('again', () => ({ order: 'site', site, until: null }));
find('options').addEventListener('click', () => void chrome.runtime.openOptionsPage());
