import type { Letters } from '.';

export const nl: Letters = {
  invoice: {
    subject: 'Factuur {number} – {studio}',
    body: 'Beste {contact},\n\nBijgaand ontvangt u factuur {number} van {amount}, te betalen vóór {due}.\n\nDank voor de samenwerking.\n\n{member}\n{studio}',
  },
  'credit note': {
    subject: 'Creditfactuur {number} – {studio}',
    body: 'Beste {contact},\n\nBijgaand ontvangt u creditfactuur {number} van {amount}.\n\n{member}\n{studio}',
  },
  quote: {
    subject: 'Offerte {number}: {title}',
    body: 'Beste {contact},\n\nBijgaand ontvangt u onze offerte {number} voor {title}. Het totaal is {amount}; de offerte geldt tot en met {due}.\n\nEen korte reactie is genoeg om akkoord te gaan.\n\n{member}\n{studio}',
  },
  reminder: {
    subject: 'Factuur {number}: herinnering',
    body: 'Beste {contact},\n\nFactuur {number} had vóór {due} betaald moeten zijn; {owed} staat nog open. Wellicht is zij aan uw aandacht ontsnapt; wij sturen haar nogmaals mee.\n\nHebt u intussen betaald, dan kunt u deze brief als niet verzonden beschouwen.\n\n{member}\n{studio}',
  },
  'second reminder': {
    subject: 'Factuur {number}: {late} dagen te laat',
    body: 'Beste {contact},\n\nFactuur {number} had vóór {due} betaald moeten zijn en is nu {late} dagen te laat. {owed} staat nog open. Wilt u binnen zeven dagen betalen, of ons zeggen wat dat in de weg staat?\n\n{member}\n{studio}',
  },
  'last reminder': {
    subject: 'Factuur {number}: laatste aanmaning',
    body: 'Beste {contact},\n\nOndanks onze herinneringen staat {owed} van factuur {number}, vervallen op {due}, nog open.\n\n{claim}\n\nWij verzoeken u binnen zeven dagen te betalen. Daarna moeten wij verdere stappen nemen.\n\n{member}\n{studio}',
  },
  statement: {
    subject: 'Rekeningoverzicht – {studio}',
    body: 'Beste {contact},\n\nBijgaand ontvangt u het overzicht van uw rekening. {owed} staat open.\n\n{member}\n{studio}',
  },
  report: {
    subject: '{title} – {studio}',
    body: 'Beste {contact},\n\nBijgaand ontvangt u ons rapport {title}.\n\n{member}\n{studio}',
  },
  'hand in': {
    subject: '{period} is nog niet ingeleverd',
    body: 'Dag {contact},\n\n{period} staat nog open: {missing}. Lever het in, zodat het nagekeken en gefactureerd kan worden.\n\n{member}',
  },
};
