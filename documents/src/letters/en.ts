import type { Letters } from '.';

export const en: Letters = {
  invoice: {
    subject: 'Invoice {number} from {studio}',
    body: 'Dear {contact},\n\nPlease find attached invoice {number} for {amount}, due on {due}.\n\nThank you for working with us.\n\n{member}\n{studio}',
  },
  'credit note': {
    subject: 'Credit note {number} from {studio}',
    body: 'Dear {contact},\n\nPlease find attached credit note {number} for {amount}.\n\n{member}\n{studio}',
  },
  quote: {
    subject: 'Quote {number}: {title}',
    body: 'Dear {contact},\n\nPlease find attached our quote {number} for {title}. It comes to {amount} and holds until {due}.\n\nIf you would like us to go ahead, a line in reply is enough.\n\n{member}\n{studio}',
  },
  reminder: {
    subject: 'Invoice {number}: a reminder',
    body: 'Dear {contact},\n\nInvoice {number} was due on {due}, and {owed} of it are still open. It may have been overlooked; it is attached once more.\n\nIf you have paid in the meantime, please disregard this letter.\n\n{member}\n{studio}',
  },
  'second reminder': {
    subject: 'Invoice {number} is {late} days late',
    body: 'Dear {contact},\n\nInvoice {number} was due on {due} and is now {late} days late. {owed} are still open. Please pay them within seven days, or tell us what keeps you from it.\n\n{member}\n{studio}',
  },
  'last reminder': {
    subject: 'Invoice {number}: last reminder',
    body: 'Dear {contact},\n\nDespite our reminders {owed} of invoice {number}, due on {due}, are still open.\n\n{claim}\n\nPlease pay within seven days. After that we shall have to take further steps.\n\n{member}\n{studio}',
  },
  statement: {
    subject: 'Statement of account from {studio}',
    body: 'Dear {contact},\n\nPlease find attached the statement of your account. {owed} are open.\n\n{member}\n{studio}',
  },
  report: {
    subject: '{title}, from {studio}',
    body: 'Dear {contact},\n\nPlease find attached our report {title}.\n\n{member}\n{studio}',
  },
  'hand in': {
    subject: '{period} is not handed in yet',
    body: 'Dear {contact},\n\n{period} is still open: {missing}. Please hand it in, so that it can be checked and invoiced.\n\n{member}',
  },
};
