export * from './generate';
export { cursorOf, toldUntil, type Told, type Transaction } from './bookkeeping';
export { trackerClients, trackerStates, trackerTasks, type TrackerClient, type TrackerTask } from './tracker';
export { watchedDay, workingDaysBefore, WATCHED_SEED, type Watched } from './watched';
export { titlesAlone, wordsDay } from './words-day';
export { openedFor } from './studio/keeping';
export { privateSites } from './studio/watched';
