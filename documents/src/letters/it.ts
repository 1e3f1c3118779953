import type { Letters } from '.';

export const it: Letters = {
  invoice: {
    subject: 'Fattura {number} – {studio}',
    body: 'Gentile {contact},\n\nin allegato trova la fattura {number} di {amount}, con scadenza il {due}.\n\nGrazie per la collaborazione.\n\n{member}\n{studio}',
  },
  'credit note': {
    subject: 'Nota di credito {number} – {studio}',
    body: 'Gentile {contact},\n\nin allegato trova la nota di credito {number} di {amount}.\n\n{member}\n{studio}',
  },
  quote: {
    subject: 'Preventivo {number}: {title}',
    body: 'Gentile {contact},\n\nin allegato trova il nostro preventivo {number} per {title}. Ammonta a {amount} ed è valido fino al {due}.\n\nPer accettarlo basta una riga di risposta.\n\n{member}\n{studio}',
  },
  reminder: {
    subject: 'Fattura {number}: promemoria',
    body: 'Gentile {contact},\n\nla fattura {number} scadeva il {due} e restano da pagare {owed}. Forse è sfuggita; la alleghiamo di nuovo.\n\nSe ha già pagato, non tenga conto di questo messaggio.\n\n{member}\n{studio}',
  },
  'second reminder': {
    subject: 'Fattura {number}: {late} giorni di ritardo',
    body: 'Gentile {contact},\n\nla fattura {number} scadeva il {due} ed è ora in ritardo di {late} giorni. Restano da pagare {owed}. La preghiamo di pagare entro sette giorni o di dirci che cosa lo impedisce.\n\n{member}\n{studio}',
  },
  'last reminder': {
    subject: 'Fattura {number}: ultimo sollecito',
    body: 'Gentile {contact},\n\nnonostante i nostri solleciti restano da pagare {owed} della fattura {number}, scaduta il {due}.\n\n{claim}\n\nLa preghiamo di pagare entro sette giorni. In seguito dovremo intraprendere altri passi.\n\n{member}\n{studio}',
  },
  statement: {
    subject: 'Estratto conto – {studio}',
    body: 'Gentile {contact},\n\nin allegato trova l’estratto del Suo conto. Restano da pagare {owed}.\n\n{member}\n{studio}',
  },
  report: {
    subject: '{title} – {studio}',
    body: 'Buongiorno {contact},\n\nin allegato trova il nostro rapporto {title}.\n\n{member}\n{studio}',
  },
  'hand in': {
    subject: '{period}: ore non ancora consegnate',
    body: 'Ciao {contact},\n\n{period} è ancora aperta: {missing}. Ti prego di consegnarla, così può essere controllata e fatturata.\n\n{member}',
  },
};
