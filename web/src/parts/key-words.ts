import type { KeyName } from './keys';

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

/** Where each key is to be pressed, and what it does. */
export const keyWords: Readonly<Record<KeyName, readonly [where: string, does: string]>> = {
  'till.open': [EVERYWHERE, 'Open the Till’s line'],
  find: [EVERYWHERE, 'Find anything by name, or run a command'],
  undo: [EVERYWHERE, 'Undo the last change'],
  redo: [EVERYWHERE, 'Redo it'],
  'go.today': [EVERYWHERE, 'Go to Today'],
  'go.sift': [EVERYWHERE, 'Go to Sift'],
  'go.week': [EVERYWHERE, 'Go to Week'],
  'go.costs': [EVERYWHERE, 'Go to Costs'],
  'go.billing': [EVERYWHERE, 'Go to Billing'],
  'go.reports': [EVERYWHERE, 'Go to Reports'],
  'go.clients': [EVERYWHERE, 'Go to Clients'],
  'go.team': [EVERYWHERE, 'Go to Team'],
  'go.setup': [EVERYWHERE, 'Go to Setup'],
  before: ['On Today, Sift, Week and Team', 'The day or week before'],
  after: ['On Today, Sift, Week and Team', 'The day or week after'],

  'ahead.later': [AHEAD, 'Move it a week later'],
  'ahead.earlier': [AHEAD, 'Move it a week earlier'],
  'ahead.below': [AHEAD, 'Give it to the member below'],
  'ahead.above': [AHEAD, 'Give it to the member above'],

  'till.take': [TILL, 'Do what is chosen: start, switch or record'],
  'till.complete': [TILL, 'Complete the name of the chosen job'],
  'till.next': [TILL, 'Choose the next'],
  'till.previous': [TILL, 'Choose the one before'],
  'till.stop': [TILL, 'Stop the timer, while the line is empty'],
  'till.close': [TILL, 'Close it; what was typed is kept'],

  'today.add': ['On Today', 'Add time by hand'],
  'today.closeAdd': ['On Today', 'Close the form to add time'],
  'entry.resume': [TODAY, 'Resume it'],
  'entry.split': [TODAY, 'Split it'],
  'entry.join': [TODAY, 'Join the selected'],
  'entry.duplicate': [TODAY, 'Duplicate'],
  'entry.move': [TODAY, 'Move to another day or job'],
  'entry.tag': [TODAY, 'Tag'],
  'entry.history': [TODAY, 'What was done to it'],
  'entry.delete': [TODAY, 'Delete'],
  'plan.record': ['On planned time', 'Record it'],

  'sift.place': [SIFT, 'Place as offered'],
  'sift.placeAll': [SIFT, 'Place everything as offered'],
  'sift.post': [SIFT, 'Post what is placed'],
  'sift.rule': [SIFT, 'Always here: make a rule of it'],
  'sift.join': [SIFT, 'Join the selected'],
  'sift.split': [SIFT, 'Split it'],
  'sift.private': [SIFT, 'Mark as private'],
  'sift.notWork': [SIFT, 'Mark as not work'],
  'sift.reopen': [SIFT, 'Open it again'],
  'sift.delete': [SIFT, 'Delete it from the trail'],

  'page.next': [PAGE, 'On to the next piece'],
  'page.before': [PAGE, 'Back to the piece before'],
  'page.selectNext': [PAGE, 'Select on to the next piece'],
  'page.selectBefore': [PAGE, 'Select back to the piece before'],

  'week.addJob': ['On Week', 'Add a job'],
  'week.edit': [WEEK, 'Edit; a figure begins at once'],
  'week.next': [WEEK, 'On to the next day while writing; after the last day to the next row'],
  'week.previous': [WEEK, 'Back a day while writing'],
  'week.unfold': [WEEK, 'Show or hide its entries'],
  'week.note': [WEEK, 'Write a note'],
  'week.another': [WEEK, 'Add another entry'],
  'week.plan': [WEEK, 'Plan time'],
  'week.record': [WEEK, 'Record what is planned'],
  'week.empty': [WEEK, 'Empty it'],
  'week.close': [WEEK, 'Close what is shown, give up a selection'],
  'week.selectRight': [WEEK, 'Select to the right'],
  'week.selectLeft': [WEEK, 'Select to the left'],
  'week.paste': [WEEK, 'Paste a block from a spreadsheet'],
  'week.copy': [WEEK, 'Copy the selected block'],

  'grid.down': [TABLE, 'Down'],
  'grid.up': [TABLE, 'Up'],
  'grid.right': [TABLE, 'Right'],
  'grid.left': [TABLE, 'Left'],
  'grid.pageDown': [TABLE, 'Ten rows down'],
  'grid.pageUp': [TABLE, 'Ten rows up'],
  'grid.home': [TABLE, 'First column'],
  'grid.end': [TABLE, 'Last column'],
  'grid.first': [TABLE, 'First row'],
  'grid.last': [TABLE, 'Last row'],
  'grid.selectDown': [TABLE, 'Select downwards'],
  'grid.selectUp': [TABLE, 'Select upwards'],
  'grid.select': [TABLE, 'Select the row'],
  'grid.selectTo': [TABLE, 'Select all rows up to here'],
  'grid.selectAll': [TABLE, 'Select all rows'],
  'grid.open': [TABLE, 'Edit the cell, press what is in it, or open the row'],
  'grid.delete': [TABLE, 'Delete the row, where rows can be deleted'],
  'edit.save': [EDIT, 'Save it'],
  'edit.leave': [EDIT, 'Leave it as it was'],
  'edit.right': [EDIT, 'Save it and go right, in the week'],
  'edit.left': [EDIT, 'Save it and go left, in the week'],
  'day.calendar': [EDIT, 'Open the month, in a field for a day'],
  'dialog.confirm': ['In a window', 'Press its main button'],
  'choose.first': ['In a list with a search field', 'Choose the first'],

  'cost.bill': [COSTS, 'New supplier bill'],
  'cost.expense': [COSTS, 'New expense'],
  'money.take': ['On money that came in', 'Match it as offered'],
  'money.other': ['On money that came in', 'Say what it is for'],
  'money.aside': ['On money that came in', 'Set it aside'],
  'bill.put': ['On what is to bill', 'Put on invoice'],
  'draft.issue': [DRAFT, 'Issue'],
  'draft.heading': [DRAFT, 'Heading above the line'],
  'report.fold': ['In a report', 'Fold or unfold the group'],

  'order.up': [ARRANGE, 'Earlier: among projects, stages, rules, lines of a draft'],
  'order.down': [ARRANGE, 'Later'],
  'order.in': [ARRANGE, 'Make a project a part of the one above'],
  'order.out': [ARRANGE, 'Make it stand by itself again'],
};
