import type { Letters } from '.';

export const de: Letters = {
  invoice: {
    subject: 'Rechnung {number} – {studio}',
    body: 'Guten Tag {contact},\n\nanbei erhalten Sie die Rechnung {number} über {amount}, fällig am {due}.\n\nVielen Dank für die Zusammenarbeit.\n\n{member}\n{studio}',
  },
  'credit note': {
    subject: 'Rechnungskorrektur {number} – {studio}',
    body: 'Guten Tag {contact},\n\nanbei erhalten Sie die Rechnungskorrektur {number} über {amount}.\n\n{member}\n{studio}',
  },
  quote: {
    subject: 'Angebot {number}: {title}',
    body: 'Guten Tag {contact},\n\nanbei erhalten Sie unser Angebot {number} für {title}. Es beläuft sich auf {amount} und gilt bis {due}.\n\nZum Annehmen genügt eine kurze Antwort.\n\n{member}\n{studio}',
  },
  reminder: {
    subject: 'Rechnung {number}: Zahlungserinnerung',
    body: 'Guten Tag {contact},\n\ndie Rechnung {number} war am {due} fällig, {owed} sind noch offen. Vielleicht ist sie liegen geblieben; sie liegt noch einmal bei.\n\nFalls Sie inzwischen gezahlt haben, ist dieser Brief gegenstandslos.\n\n{member}\n{studio}',
  },
  'second reminder': {
    subject: 'Rechnung {number}: {late} Tage überfällig',
    body: 'Guten Tag {contact},\n\ndie Rechnung {number} war am {due} fällig und ist nun {late} Tage überfällig. {owed} sind noch offen. Bitte zahlen Sie innerhalb von sieben Tagen, oder sagen Sie uns, was dem entgegensteht.\n\n{member}\n{studio}',
  },
  'last reminder': {
    subject: 'Rechnung {number}: letzte Mahnung',
    body: 'Guten Tag {contact},\n\ntrotz unserer Erinnerungen sind {owed} der Rechnung {number}, fällig am {due}, noch offen.\n\n{claim}\n\nBitte zahlen Sie innerhalb von sieben Tagen. Danach müssen wir weitere Schritte einleiten.\n\n{member}\n{studio}',
  },
  statement: {
    subject: 'Kontoauszug – {studio}',
    body: 'Guten Tag {contact},\n\nanbei erhalten Sie den Auszug Ihres Kontos. {owed} sind offen.\n\n{member}\n{studio}',
  },
  report: {
    subject: '{title} – {studio}',
    body: 'Guten Tag {contact},\n\nanbei erhalten Sie unseren Bericht {title}.\n\n{member}\n{studio}',
  },
  'hand in': {
    subject: '{period} ist noch nicht abgegeben',
    body: 'Guten Tag {contact},\n\n{period} ist noch offen: {missing}. Bitte gib sie ab, damit sie geprüft und abgerechnet werden kann.\n\n{member}',
  },
};
