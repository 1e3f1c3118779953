import type { Letters } from '.';

export const fr: Letters = {
  invoice: {
    subject: 'Facture {number} – {studio}',
    body: 'Bonjour {contact},\n\nVeuillez trouver ci-joint la facture {number} d’un montant de {amount}, à régler avant le {due}.\n\nEn vous remerciant de votre confiance,\n\n{member}\n{studio}',
  },
  'credit note': {
    subject: 'Avoir {number} – {studio}',
    body: 'Bonjour {contact},\n\nVeuillez trouver ci-joint l’avoir {number} d’un montant de {amount}.\n\n{member}\n{studio}',
  },
  quote: {
    subject: 'Devis {number} : {title}',
    body: 'Bonjour {contact},\n\nVeuillez trouver ci-joint notre devis {number} pour {title}. Il s’élève à {amount} et reste valable jusqu’au {due}.\n\nUne simple réponse à ce message suffit pour l’accepter.\n\n{member}\n{studio}',
  },
  reminder: {
    subject: 'Facture {number} : rappel',
    body: 'Bonjour {contact},\n\nLa facture {number} était à régler avant le {due} et {owed} restent dus. Il s’agit sans doute d’un oubli ; vous la trouverez de nouveau ci-jointe.\n\nSi votre règlement nous est déjà parvenu, veuillez ne pas tenir compte de ce message.\n\n{member}\n{studio}',
  },
  'second reminder': {
    subject: 'Facture {number} : {late} jours de retard',
    body: 'Bonjour {contact},\n\nLa facture {number}, à régler avant le {due}, a maintenant {late} jours de retard. {owed} restent dus. Merci de les régler sous sept jours ou de nous dire ce qui s’y oppose.\n\n{member}\n{studio}',
  },
  'last reminder': {
    subject: 'Facture {number} : dernier rappel',
    body: 'Bonjour {contact},\n\nMalgré nos rappels, {owed} de la facture {number}, échue le {due}, restent dus.\n\n{claim}\n\nMerci de régler sous sept jours. Passé ce délai, nous devrons engager d’autres démarches.\n\n{member}\n{studio}',
  },
  statement: {
    subject: 'Relevé de compte – {studio}',
    body: 'Bonjour {contact},\n\nVeuillez trouver ci-joint le relevé de votre compte. {owed} restent dus.\n\n{member}\n{studio}',
  },
  report: {
    subject: '{title} – {studio}',
    body: 'Bonjour {contact},\n\nVeuillez trouver ci-joint notre rapport {title}.\n\n{member}\n{studio}',
  },
  'hand in': {
    subject: '{period} : heures pas encore remises',
    body: 'Bonjour {contact},\n\n{period} est encore ouverte : {missing}. Merci de la remettre, pour qu’elle puisse être vérifiée et facturée.\n\n{member}',
  },
};
