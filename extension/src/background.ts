import type { Activity } from '@half-penny/core/capture';
import { follow, followAway, isTold, titleOf, type Page } from './follower';
import { allowed, seal } from './keeping';
import { greet, send } from './sending';
import { readMemory, readShelf, writeMemory, writeShelf, type Order, type Shelf } from './shelf';

// The browser ends this page whenever nothing happens and begins it again with the next event; all it knows lies on the shelf.

const AWAY_AFTER_SECONDS = 60;
const BEAT = 'beat';

/** The browser as people call it. */
const program = /Firefox\//.test(navigator.userAgent)
  ? 'Firefox'
  : /Edg\//.test(navigator.userAgent)
    ? 'Edge'
    : 'Chromium';

/** The page that the person looks at; null where that is none that is told. */
async function frontPage(): Promise<Page | null> {
  const window = await chrome.windows.getLastFocused().catch(() => null);
  if (!window?.focused || window.incognito || window.id === undefined) return null;
  const [tab] = await chrome.tabs.query({ active: true, windowId: window.id });
  if (!tab || tab.incognito || !tab.url || !isTold(tab.url)) return null;
  return { title: titleOf(tab.title ?? '', tab.url), address: tab.url };
}

let work: Promise<unknown> = Promise.resolve();
/** One thing after another: each reads what the one before it wrote. */
function inTurn<T>(task: () => Promise<T>): Promise<T> {
  const next = work.then(task, task);
  work = next.catch(() => undefined);
  return next;
}

/** Looks at what is in front; what there is to tell is sealed and kept, before anything is sent. */
async function look(told: readonly Activity[] = []): Promise<Shelf> {
  const now = Date.now();
  const [shelf, memory, front] = [await readShelf(), await readMemory(), await frontPage()];
  const followed = follow(memory, front, now, program);
  const unsealed = [...memory.unsealed, ...allowed(shelf, [...followed.told, ...told], now)];
  const kept = await seal(shelf, { ...memory, ...followed.state, unsealed }, now);
  await writeShelf(kept.shelf);
  await writeMemory(kept.memory);
  return kept.shelf;
}

/** Looks, asks what may be recorded, and sends. */
async function beat(): Promise<Shelf> {
  const heard = await greet(await look(), program);
  await writeShelf(heard);
  const sent = await send(await look());
  await writeShelf(sent);
  return sent;
}

async function away(state: `${chrome.idle.IdleState}`): Promise<void> {
  const now = Date.now();
  const memory = await readMemory();
  // The system says so once nothing was touched for that long.
  const since = state === 'idle' ? now - AWAY_AFTER_SECONDS * 1000 : now;
  const next = followAway(memory, state === 'active', since);
  await writeMemory({ ...memory, ...next.state });
  await look(next.told);
}

async function obey(order: Order): Promise<Shelf> {
  const shelf = await readShelf();
  switch (order.order) {
    case 'look':
      return look();
    case 'pause':
      await look();
      await writeShelf({ ...(await readShelf()), paused: order.paused });
      return beat();
    case 'site': {
      await look();
      const { [order.site]: _, ...others } = (await readShelf()).sites;
      const sites = order.until === null ? others : { ...others, [order.site]: order.until };
      await writeShelf({ ...(await readShelf()), sites });
      return look();
    }
    case 'pair':
      await writeShelf({ ...shelf, server: order.server, key: order.key, welcome: null });
      return beat();
  }
}

const lookSoon = () => void inTurn(() => look());
chrome.tabs.onActivated.addListener(lookSoon);
chrome.tabs.onUpdated.addListener((_id, changed) => {
  if (changed.title !== undefined || changed.url !== undefined) lookSoon();
});
chrome.tabs.onRemoved.addListener(lookSoon);
chrome.windows.onFocusChanged.addListener(lookSoon);
chrome.idle.setDetectionInterval(AWAY_AFTER_SECONDS);
chrome.idle.onStateChanged.addListener((state) => void inTurn(() => away(state)));
chrome.alarms.onAlarm.addListener(({ name }) => {
  if (name === BEAT) void inTurn(beat);
});
chrome.runtime.onMessage.addListener((order: Order, sender, answer) => {
  if (sender.id !== chrome.runtime.id) return false;
  inTurn(() => obey(order)).then(answer, () => answer(null));
  // The answer comes later.
  return true;
});
void chrome.alarms.create(BEAT, { periodInMinutes: 0.5 });
void inTurn(beat);
