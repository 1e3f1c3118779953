import type { Letters } from '.';

export const es: Letters = {
  invoice: {
    subject: 'Factura {number} – {studio}',
    body: 'Estimado/a {contact}:\n\nAdjuntamos la factura {number} por un importe de {amount}, con vencimiento el {due}.\n\nGracias por su confianza.\n\n{member}\n{studio}',
  },
  'credit note': {
    subject: 'Factura rectificativa {number} – {studio}',
    body: 'Estimado/a {contact}:\n\nAdjuntamos la factura rectificativa {number} por un importe de {amount}.\n\n{member}\n{studio}',
  },
  quote: {
    subject: 'Presupuesto {number}: {title}',
    body: 'Estimado/a {contact}:\n\nAdjuntamos nuestro presupuesto {number} para {title}. Asciende a {amount} y es válido hasta el {due}.\n\nPara aceptarlo basta con responder a este mensaje.\n\n{member}\n{studio}',
  },
  reminder: {
    subject: 'Factura {number}: recordatorio',
    body: 'Estimado/a {contact}:\n\nLa factura {number} venció el {due} y quedan pendientes {owed}. Puede que se haya pasado por alto; la adjuntamos de nuevo.\n\nSi ya la ha pagado, no tenga en cuenta este mensaje.\n\n{member}\n{studio}',
  },
  'second reminder': {
    subject: 'Factura {number}: {late} días de retraso',
    body: 'Estimado/a {contact}:\n\nLa factura {number} venció el {due} y lleva ya {late} días de retraso. Quedan pendientes {owed}. Le rogamos que los pague en un plazo de siete días o nos diga qué lo impide.\n\n{member}\n{studio}',
  },
  'last reminder': {
    subject: 'Factura {number}: último recordatorio',
    body: 'Estimado/a {contact}:\n\nA pesar de nuestros recordatorios siguen pendientes {owed} de la factura {number}, vencida el {due}.\n\n{claim}\n\nLe rogamos que pague en un plazo de siete días. Después tendremos que tomar otras medidas.\n\n{member}\n{studio}',
  },
  statement: {
    subject: 'Estado de cuenta – {studio}',
    body: 'Estimado/a {contact}:\n\nAdjuntamos el estado de su cuenta. Quedan pendientes {owed}.\n\n{member}\n{studio}',
  },
  report: {
    subject: '{title} – {studio}',
    body: 'Hola, {contact}:\n\nAdjuntamos nuestro informe {title}.\n\n{member}\n{studio}',
  },
  'hand in': {
    subject: '{period}: horas sin entregar',
    body: 'Hola, {contact}:\n\n{period} sigue abierta: {missing}. Entrégala, por favor, para que se pueda revisar y facturar.\n\n{member}',
  },
};
