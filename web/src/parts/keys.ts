import { matchKeyBindingPress, parseKeybinding } from 'tinykeys';
import { useEffect, useRef, type KeyboardEvent as ReactKeyboardEvent } from 'react';

/**
 * Every key there is, as tinykeys writes them: "$mod+k", "Alt+ArrowUp", "j". Any of several does it. What each does stands in key-words.ts,
 * which has to have a word for every one.
 */
export const keyTable = {
  'till.open': ['.'],
  find: ['$mod+k'],
  undo: ['$mod+z'],
  redo: ['$mod+Shift+Z'],
  'go.today': ['Alt+1'],
  'go.sift': ['Alt+2'],
  'go.week': ['Alt+3'],
  'go.costs': ['Alt+4'],
  'go.billing': ['Alt+5'],
  'go.reports': ['Alt+6'],
  'go.clients': ['Alt+7'],
  'go.team': ['Alt+8'],
  'go.setup': ['Alt+9'],
  before: ['['],
  after: [']'],

  'ahead.later': ['Alt+ArrowRight'],
  'ahead.earlier': ['Alt+ArrowLeft'],
  'ahead.below': ['Alt+ArrowDown'],
  'ahead.above': ['Alt+ArrowUp'],

  'till.take': ['Enter'],
  'till.complete': ['Tab'],
  'till.next': ['ArrowDown'],
  'till.previous': ['ArrowUp'],
  'till.stop': ['.'],
  'till.close': ['Escape'],

  'today.add': ['a'],
  'today.closeAdd': ['Escape'],
  'entry.resume': ['g'],
  'entry.split': ['s'],
  'entry.join': ['j'],
  'entry.duplicate': ['d'],
  'entry.move': ['m'],
  'entry.tag': ['t'],
  'entry.history': ['h'],
  'entry.delete': ['Delete'],
  'plan.record': ['r'],

  'sift.place': ['a'],
  'sift.placeAll': ['Shift+A'],
  'sift.post': ['p'],
  'sift.rule': ['r'],
  'sift.join': ['j'],
  'sift.split': ['s'],
  'sift.private': ['v'],
  'sift.notWork': ['x'],
  'sift.reopen': ['u'],
  'sift.delete': ['Shift+D'],

  'page.next': ['ArrowRight', 'ArrowDown'],
  'page.before': ['ArrowLeft', 'ArrowUp'],
  'page.selectNext': ['Shift+ArrowRight', 'Shift+ArrowDown'],
  'page.selectBefore': ['Shift+ArrowLeft', 'Shift+ArrowUp'],

  'week.addJob': ['j'],
  'week.edit': ['Enter', 'F2'],
  'week.next': ['Tab'],
  'week.previous': ['Shift+Tab'],
  'week.unfold': ['Space', 'Alt+ArrowDown'],
  'week.note': ['n'],
  'week.another': ['+'],
  'week.plan': ['p'],
  'week.record': ['r'],
  'week.empty': ['Delete', 'Backspace'],
  'week.close': ['Escape'],
  'week.selectRight': ['Shift+ArrowRight'],
  'week.selectLeft': ['Shift+ArrowLeft'],
  'week.paste': ['$mod+v'],
  'week.copy': ['$mod+c'],

  'grid.down': ['ArrowDown'],
  'grid.up': ['ArrowUp'],
  'grid.right': ['ArrowRight'],
  'grid.left': ['ArrowLeft'],
  'grid.pageDown': ['PageDown'],
  'grid.pageUp': ['PageUp'],
  'grid.home': ['Home'],
  'grid.end': ['End'],
  'grid.first': ['$mod+Home'],
  'grid.last': ['$mod+End'],
  'grid.selectDown': ['Shift+ArrowDown'],
  'grid.selectUp': ['Shift+ArrowUp'],
  'grid.select': ['Space'],
  'grid.selectTo': ['Shift+Space'],
  'grid.selectAll': ['$mod+a'],
  'grid.open': ['Enter', 'F2'],
  'grid.delete': ['Delete'],
  'edit.save': ['Enter'],
  'edit.leave': ['Escape'],
  'edit.right': ['Tab'],
  'edit.left': ['Shift+Tab'],
  'day.calendar': ['Alt+ArrowDown'],
  'dialog.confirm': ['Enter'],
  'choose.first': ['Enter'],

  'cost.bill': ['b'],
  'cost.expense': ['e'],
  'money.take': ['a'],
  'money.other': ['o'],
  'money.aside': ['x'],
  'bill.put': ['i'],
  'draft.issue': ['i'],
  'draft.heading': ['h'],
  'report.fold': ['+', '-'],

  'order.up': ['Alt+ArrowUp'],
  'order.down': ['Alt+ArrowDown'],
  'order.in': ['Alt+ArrowRight'],
  'order.out': ['Alt+ArrowLeft'],
} as const satisfies Record<string, readonly [string, ...string[]]>;

export type KeyName = keyof typeof keyTable;

type AnyKeyboardEvent = KeyboardEvent | ReactKeyboardEvent;

/** Whether a press is one that the table has under a name. */
export function isKey(event: AnyKeyboardEvent, name: KeyName): boolean {
  const native = 'nativeEvent' in event ? event.nativeEvent : event;
  return keyTable[name].some((press) => {
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
export const showKey = (name: KeyName): string => showPress(keyTable[name][0]);

/** All that do it: "Enter or F2". */
export const showKeys = (name: KeyName): string => keyTable[name].map(showPress).join(' or ');

/** As assistive technology wants it: "Control+K". */
export const ariaKey = (name: KeyName): string => keyTable[name][0].replace('$mod', 'Control');
