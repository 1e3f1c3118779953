import type { SealedKind } from '@half-penny/core/model';

// The page that goes with a file: what it is, and what to do with it, for whoever gets it by mail.

/** Who writes to whom about which file. */
export interface About {
  studio: string;
  member: string;
  file: string;
  /** The days of a timesheet, in words. */
  days?: string;
}

const open = 'Open it there by “Open a file…”, or drop or paste it onto the page.';
const safe =
  'Only you can read it: it is sealed to your keys. If it was altered on the way, Half Penny says so and takes nothing.';

/** The instructions for a file. */
export function pageFor(kind: SealedKind | 'invitation', { studio, member, file, days = '' }: About): string {
  switch (kind) {
    case 'invitation':
      return `Hello ${member},

with the file ${file} you can record your time for ${studio} in your own browser. Nobody sees your day but you; we get what you hand in.

1. Start Half Penny and choose “I was invited”. (In a browser that has a workspace already it stands under Start your own.)
2. Open the file. Half Penny makes your keys and shows a short code of twenty figures.
3. Save the reply that it makes, and send it back to us.
4. Call us, and let us read the code to one another. Both sides must see the same figures.
5. We send you a job sheet. Open it on the same page: your workspace is set up, and you can record.

${studio}`;
    case 'job sheet':
      return `Hello ${member},

${file} is your job sheet from ${studio}: what you can record on, what is planned for you, and which days are closed.

The first one is opened where you opened the invitation. A later one is opened under Sealed files. ${open}

${safe}`;
    case 'timesheet':
      return `Hello,

${file} is what ${member} handed in for ${days}.

Open Team, Sealed files. ${open} It comes to whoever checks it, under To check.

${safe}`;
    case 'answer':
      return `Hello ${member},

${file} says what became of what you handed in: what was approved, corrected or sent back, and which days are closed.

Open Sealed files. ${open} What was sent back stands on your Week with the reason; change it, hand in again, and send us the new timesheet.

${safe}`;
  }
}
