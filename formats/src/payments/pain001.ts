import { isIban } from '@half-penny/core/e-invoice';
import { plainAmount, sumExact } from '@half-penny/core/money';
import type { PaymentFile, Transfer } from '@half-penny/core/paying-out';
import { XMLBuilder } from 'fast-xml-parser';

// ISO 20022, customer credit transfer initiation. Names of elements and their order are those of the message definition report, as
// remembered; the same message made by another library has the same elements in the same order.

const NAMESPACE = 'urn:iso:std:iso:20022:tech:xsd:pain.001.001.09';
/** Most signs of a name and of what a payee reads, as the European rule book for credit transfers has it. */
const LONGEST_NAME = 70;
const LONGEST_TEXT = 140;

/** Letters that no decomposition makes plain. */
const PLAIN: Readonly<Record<string, string>> = {
  ß: 'ss',
  æ: 'ae',
  Æ: 'AE',
  œ: 'oe',
  Œ: 'OE',
  ø: 'o',
  Ø: 'O',
  ł: 'l',
  Ł: 'L',
  đ: 'd',
  Đ: 'D',
  þ: 'th',
  Þ: 'Th',
  ð: 'd',
  Ð: 'D',
  ı: 'i',
  '’': "'",
  '‘': "'",
  '–': '-',
  '—': '-',
  '&': '+',
};

/**
 * A text in the letters that every bank takes (EPC217-08: a-z A-Z 0-9 / - ? : ( ) . , ' + and the space); others are written with the
 * nearest of those, or as a full stop. No text begins or ends with a slash, or has two in a row.
 */
export function bankText(text: string, longest = LONGEST_TEXT): string {
  const plain = [...text.normalize('NFD').replace(/\p{M}/gu, '')].map((sign) => PLAIN[sign] ?? sign).join('');
  const known = plain.replace(/\s+/g, ' ').replace(/[^A-Za-z0-9/\-?:().,'+ ]/g, '.');
  return known
    .replace(/\/{2,}/g, '/')
    .trim()
    .slice(0, longest)
    .replace(/^\/+|\/+$/g, '')
    .trim();
}

const compact = (text: string): string => text.replace(/[\s-]/g, '').toUpperCase();

/** British sort code and number: "20-00-00 55779911". */
const sortCode = (number: string): { sort: string; account: string } | null => {
  const match = /^(\d{6})(\d{8})$/.exec(compact(number));
  return match && { sort: match[1]!, account: match[2]! };
};

const accountOf = (number: string): object => {
  if (isIban(number)) return { Id: { IBAN: compact(number) } };
  return { Id: { Othr: { Id: (sortCode(number)?.account ?? compact(number)).slice(0, 34) } } };
};

/** The bank of an account: by its BIC, by a sort code, or said not to be given. */
function bankOf(number: string, bic: string): object {
  if (bic) return { FinInstnId: { BICFI: bic } };
  const british = isIban(number) ? null : sortCode(number);
  if (british) return { FinInstnId: { ClrSysMmbId: { ClrSysId: { Cd: 'GBDSC' }, MmbId: british.sort } } };
  return { FinInstnId: { Othr: { Id: 'NOTPROVIDED' } } };
}

/** A reference by ISO 11649 goes where banks look for one; everything else is text. */
function saidOf(text: string): object | undefined {
  const code = compact(text);
  if (/^RF\d{2}[A-Z0-9]{1,21}$/.test(code))
    return { Strd: { CdtrRefInf: { Tp: { CdOrPrtry: { Cd: 'SCOR' }, Issr: 'ISO' }, Ref: code } } };
  const said = bankText(text);
  return said === '' ? undefined : { Ustrd: said };
}

function transferOf({ endToEndId, payee, amount, text }: Transfer, currency: string): object {
  const isIbanHere = isIban(payee.number);
  const said = saidOf(text);
  return {
    PmtId: { InstrId: endToEndId, EndToEndId: endToEndId },
    Amt: { InstdAmt: { '@Ccy': currency, '#text': plainAmount(amount, currency) } },
    // The bank is found by an IBAN alone.
    ...(isIbanHere && payee.bic === '' ? {} : { CdtrAgt: bankOf(payee.number, payee.bic) }),
    Cdtr: { Nm: bankText(payee.holder || payee.name, LONGEST_NAME) || 'NOTPROVIDED' },
    CdtrAcct: accountOf(payee.number),
    ...(said && { RmtInf: said }),
  };
}

/**
 * What a bank is asked to pay, as pain.001.001.09 (ISO 20022). Transfers in euro between IBANs are asked for as SEPA credit transfers.
 *
 * @returns an XML document in UTF-8
 */
export function writePain001(file: PaymentFile): string {
  const { messageId, madeAt, day, currency, account, transfers } = file;
  const debtor = { Nm: bankText(file.debtor, LONGEST_NAME) || 'NOTPROVIDED' };
  const count = String(transfers.length);
  const sum = plainAmount(sumExact(transfers.map((each) => each.amount)), currency);
  const isSepa =
    currency === 'EUR' && [account, ...transfers.map(({ payee }) => payee)].every((each) => isIban(each.number));
  const document = {
    '?xml': { '@version': '1.0', '@encoding': 'UTF-8' },
    Document: {
      '@xmlns': NAMESPACE,
      CstmrCdtTrfInitn: {
        GrpHdr: {
          MsgId: messageId,
          CreDtTm: `${new Date(madeAt).toISOString().slice(0, 19)}Z`,
          NbOfTxs: count,
          CtrlSum: sum,
          InitgPty: debtor,
        },
        PmtInf: {
          PmtInfId: messageId,
          PmtMtd: 'TRF',
          NbOfTxs: count,
          CtrlSum: sum,
          ...(isSepa && { PmtTpInf: { SvcLvl: { Cd: 'SEPA' } } }),
          ReqdExctnDt: { Dt: day },
          Dbtr: debtor,
          DbtrAcct: { ...accountOf(account.number), Ccy: currency },
          DbtrAgt: bankOf(account.number, account.bic),
          ChrgBr: isSepa ? 'SLEV' : 'SHAR',
          CdtTrfTxInf: transfers.map((each) => transferOf(each, currency)),
        },
      },
    },
  };
  return new XMLBuilder({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    format: true,
    suppressEmptyNode: true,
  }).build(document);
}
