import { matchKeyBindingPress, parseKeybinding } from 'tinykeys';
import { useEffect, useRef, type KeyboardEvent as ReactKeyboardEvent } from 'react';

interface KeyEntry {
  /** As tinykeys writes them: "$mod+k", "Alt+ArrowUp", "j". Any of several does it. */
  press: readonly [string, ...string[]];
  where: string;
  does: string;
}

const key = (where: string, does: string, ...press: [string, ...string[]]): KeyEntry => ({ where, does, press });

const EVERYWHERE = 'Everywhere';
const TILL = 'In the Till’s line';
const TODAY = 'On an entry of Today';
const PAGE = 'In the picture of a day';
const SIFT = 'On Sift';
const WEEK = 'In a cell of the week';
const TABLE = 'In a table';
const AHEAD = 'On planned time of the weeks ahead';
const COSTS = 'On Costs';
const DRAFT = 'On a draft';
const EDIT = 'While a field is edited';
const ARRANGE = 'Where rows have an order';

/** Every key there is: what binds a key and what lists it are read from here, so they cannot differ. */
export const keyTable = {
  'till.open': key(EVERYWHERE, 'Open the Till’s line', '.'),
  find: key(EVERYWHERE, 'Find anything by name, or run a command', '$mod+k'),
  undo: key(EVERYWHERE, 'Undo the last change', '$mod+z'),
  redo: key(EVERYWHERE, 'Redo it', '$mod+Shift+Z'),
  'go.today': key(EVERYWHERE, 'Go to Today', 'Alt+1'),
  'go.sift': key(EVERYWHERE, 'Go to Sift', 'Alt+2'),
  'go.week': key(EVERYWHERE, 'Go to Week', 'Alt+3'),
  'go.costs': key(EVERYWHERE, 'Go to Costs', 'Alt+4'),
  'go.billing': key(EVERYWHERE, 'Go to Billing', 'Alt+5'),
  'go.reports': key(EVERYWHERE, 'Go to Reports', 'Alt+6'),
  'go.clients': key(EVERYWHERE, 'Go to Clients', 'Alt+7'),
  'go.team': key(EVERYWHERE, 'Go to Team', 'Alt+8'),
  'go.setup': key(EVERYWHERE, 'Go to Setup', 'Alt+9'),
  before: key('On Today, Sift, Week and Team', 'The day or week before', '['),
  after: key('On Today, Sift, Week and Team', 'The day or week after', ']'),

  'ahead.later': key(AHEAD, 'Move it a week later', 'Alt+ArrowRight'),
  'ahead.earlier': key(AHEAD, 'Move it a week earlier', 'Alt+ArrowLeft'),
  'ahead.below': key(AHEAD, 'Give it to the member below', 'Alt+ArrowDown'),
  'ahead.above': key(AHEAD, 'Give it to the member above', 'Alt+ArrowUp'),

  'till.take': key(TILL, 'Do what is chosen: start, switch or record', 'Enter'),
  'till.complete': key(TILL, 'Complete the name of the chosen job', 'Tab'),
  'till.next': key(TILL, 'Choose the next', 'ArrowDown'),
  'till.previous': key(TILL, 'Choose the one before', 'ArrowUp'),
  'till.stop': key(TILL, 'Stop the timer, while the line is empty', '.'),
  'till.close': key(TILL, 'Close it; what was typed is kept', 'Escape'),

  'today.add': key('On Today', 'Add time by hand', 'a'),
  'today.closeAdd': key('On Today', 'Close the form to add time', 'Escape'),
  'entry.resume': key(TODAY, 'Resume it', 'g'),
  'entry.split': key(TODAY, 'Split it', 's'),
  'entry.join': key(TODAY, 'Join the selected', 'j'),
  'entry.duplicate': key(TODAY, 'Duplicate', 'd'),
  'entry.move': key(TODAY, 'Move to another day or job', 'm'),
  'entry.tag': key(TODAY, 'Tag', 't'),
  'entry.delete': key(TODAY, 'Delete', 'Delete'),
  'plan.record': key('On planned time', 'Record it', 'r'),

  'sift.place': key(SIFT, 'Place as offered', 'a'),
  'sift.placeAll': key(SIFT, 'Place everything as offered', 'Shift+A'),
  'sift.post': key(SIFT, 'Post what is placed', 'p'),
  'sift.rule': key(SIFT, 'Always here: make a rule of it', 'r'),
  'sift.join': key(SIFT, 'Join the selected', 'j'),
  'sift.split': key(SIFT, 'Split it', 's'),
  'sift.private': key(SIFT, 'Mark as private', 'v'),
  'sift.notWork': key(SIFT, 'Mark as not work', 'x'),
  'sift.reopen': key(SIFT, 'Open it again', 'u'),
  'sift.delete': key(SIFT, 'Delete it from the trail', 'Shift+D'),

  'page.next': key(PAGE, 'On to the next piece', 'ArrowRight', 'ArrowDown'),
  'page.before': key(PAGE, 'Back to the piece before', 'ArrowLeft', 'ArrowUp'),
  'page.selectNext': key(PAGE, 'Select on to the next piece', 'Shift+ArrowRight', 'Shift+ArrowDown'),
  'page.selectBefore': key(PAGE, 'Select back to the piece before', 'Shift+ArrowLeft', 'Shift+ArrowUp'),

  'week.addJob': key('On Week', 'Add a job', 'j'),
  'week.edit': key(WEEK, 'Edit; a figure begins at once', 'Enter', 'F2'),
  'week.next': key(WEEK, 'On to the next day while writing; after the last day to the next row', 'Tab'),
  'week.previous': key(WEEK, 'Back a day while writing', 'Shift+Tab'),
  'week.unfold': key(WEEK, 'Show or hide its entries', 'Space', 'Alt+ArrowDown'),
  'week.note': key(WEEK, 'Write a note', 'n'),
  'week.another': key(WEEK, 'Add another entry', '+'),
  'week.plan': key(WEEK, 'Plan time', 'p'),
  'week.record': key(WEEK, 'Record what is planned', 'r'),
  'week.empty': key(WEEK, 'Empty it', 'Delete', 'Backspace'),
  'week.close': key(WEEK, 'Close what is shown, give up a selection', 'Escape'),
  'week.selectRight': key(WEEK, 'Select to the right', 'Shift+ArrowRight'),
  'week.selectLeft': key(WEEK, 'Select to the left', 'Shift+ArrowLeft'),
  'week.paste': key(WEEK, 'Paste a block from a spreadsheet', '$mod+v'),
  'week.copy': key(WEEK, 'Copy the selected block', '$mod+c'),

  'grid.down': key(TABLE, 'Down', 'ArrowDown'),
  'grid.up': key(TABLE, 'Up', 'ArrowUp'),
  'grid.right': key(TABLE, 'Right', 'ArrowRight'),
  'grid.left': key(TABLE, 'Left', 'ArrowLeft'),
  'grid.pageDown': key(TABLE, 'Ten rows down', 'PageDown'),
  'grid.pageUp': key(TABLE, 'Ten rows up', 'PageUp'),
  'grid.home': key(TABLE, 'First column', 'Home'),
  'grid.end': key(TABLE, 'Last column', 'End'),
  'grid.first': key(TABLE, 'First row', '$mod+Home'),
  'grid.last': key(TABLE, 'Last row', '$mod+End'),
  'grid.selectDown': key(TABLE, 'Select downwards', 'Shift+ArrowDown'),
  'grid.selectUp': key(TABLE, 'Select upwards', 'Shift+ArrowUp'),
  'grid.select': key(TABLE, 'Select the row', 'Space'),
  'grid.selectTo': key(TABLE, 'Select all rows up to here', 'Shift+Space'),
  'grid.selectAll': key(TABLE, 'Select all rows', '$mod+a'),
  'grid.open': key(TABLE, 'Edit the cell, press what is in it, or open the row', 'Enter', 'F2'),
  'grid.delete': key(TABLE, 'Delete the row, where rows can be deleted', 'Delete'),
  'edit.save': key(EDIT, 'Save it', 'Enter'),
  'edit.leave': key(EDIT, 'Leave it as it was', 'Escape'),
  'edit.right': key(EDIT, 'Save it and go right, in the week', 'Tab'),
  'edit.left': key(EDIT, 'Save it and go left, in the week', 'Shift+Tab'),
  'day.calendar': key(EDIT, 'Open the month, in a field for a day', 'Alt+ArrowDown'),
  'dialog.confirm': key('In a window', 'Press its main button', 'Enter'),
  'choose.first': key('In a list with a search field', 'Choose the first', 'Enter'),

  'cost.bill': key(COSTS, 'New supplier bill', 'b'),
  'cost.expense': key(COSTS, 'New expense', 'e'),
  'money.take': key('On money that came in', 'Match it as offered', 'a'),
  'money.other': key('On money that came in', 'Say what it is for', 'o'),
  'money.aside': key('On money that came in', 'Set it aside', 'x'),
  'bill.put': key('On what is to bill', 'Put on invoice', 'i'),
  'draft.issue': key(DRAFT, 'Issue', 'i'),
  'draft.heading': key(DRAFT, 'Heading above the line', 'h'),
  'report.fold': key('In a report', 'Fold or unfold the group', '+', '-'),

  'order.up': key(ARRANGE, 'Earlier: among projects, stages, rules, lines of a draft', 'Alt+ArrowUp'),
  'order.down': key(ARRANGE, 'Later', 'Alt+ArrowDown'),
  'order.in': key(ARRANGE, 'Make a project a part of the one above', 'Alt+ArrowRight'),
  'order.out': key(ARRANGE, 'Make it stand by itself again', 'Alt+ArrowLeft'),
} as const satisfies Record<string, KeyEntry>;

export type KeyName = keyof typeof keyTable;

type AnyKeyboardEvent = KeyboardEvent | ReactKeyboardEvent;

/** Whether a press is one that the table has under a name. */
export function isKey(event: AnyKeyboardEvent, name: KeyName): boolean {
  const native = 'nativeEvent' in event ? event.nativeEvent : event;
  return keyTable[name].press.some((press) => {
    // Where a sign such as + stands on a keyboard, and with which keys beside it, is the keyboard's own business.
    if (press.length === 1 && !/[a-z]/.test(press)) return native.key === press && !native.ctrlKey && !native.altKey;
    const [binding] = parseKeybinding(press);
    return binding !== undefined && matchKeyBindingPress(native, binding);
  });
}

export type KeyHandlers<Event = KeyboardEvent> = { readonly [Name in KeyName]?: (event: Event) => unknown };

/** Runs the handler of a press, if there is one; says whether there was. */
export function runKey<Event extends AnyKeyboardEvent>(event: Event, handlers: KeyHandlers<Event>): boolean {
  for (const [name, act] of Object.entries(handlers)) {
    if (!act || !isKey(event, name as KeyName)) continue;
    event.preventDefault();
    act(event);
    return true;
  }
  return false;
}

/** Whether keys belong to what is being typed, or to a window that is open. A closed list takes letters, but nothing with Ctrl. */
const isTyping = (event: KeyboardEvent): boolean =>
  event.target instanceof HTMLElement &&
  event.target.closest(
    'input:not([type=checkbox]), textarea, [contenteditable], [role=listbox], [role=dialog]' +
      (event.ctrlKey || event.metaKey ? '' : ', [role=combobox]'),
  ) !== null;

/** Keys of a screen, wherever the focus is on it, unless something is being typed. */
export function useKeys(handlers: KeyHandlers): void {
  const latest = useRef(handlers);
  useEffect(() => {
    latest.current = handlers;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!event.defaultPrevented && !isTyping(event)) runKey(event, latest.current);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}

const SHOWN: Readonly<Record<string, string>> = {
  $mod: 'Ctrl',
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  Escape: 'Esc',
  Delete: 'Del',
};

const showPress = (press: string): string =>
  press.length === 1
    ? press.toUpperCase()
    : press
        .split('+')
        .map((part) => SHOWN[part] ?? (part.length === 1 ? part.toUpperCase() : part))
        .join(' ');

/** A key as it is printed on buttons: "Shift A". */
export const showKey = (name: KeyName): string => showPress(keyTable[name].press[0]);

/** All that do it: "Enter or F2". */
export const showKeys = (name: KeyName): string => keyTable[name].press.map(showPress).join(' or ');

/** As assistive technology wants it: "Control+K". */
export const ariaKey = (name: KeyName): string => keyTable[name].press[0].replace('$mod', 'Control');
