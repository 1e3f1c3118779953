import { plainAmount, type Minor } from '../money/amount';
import { minorPerMajor } from '../money/currency';
import { sumExact } from '../money/rational';
import type { ReadInvoice, ReadTax } from './read-invoice';

// The business rules of EN 16931-1, clause 6.4 (rules by their published names, texts as remembered), over what was read from an invoice,
// whoever wrote it. Figures are checked in minor units, by arithmetic of its own.

/**
 * The rules of EN 16931-1 that an electronic invoice breaks, each with what was found; none where it holds.
 *
 * @returns "BR-CO-10: the lines come to 100.00 and not to 99.00"
 */
export function rulesBrokenBy(invoice: ReadInvoice): string[] {
  const rules = new Rules(invoice);
  rules.document();
  rules.parties();
  rules.lines();
  rules.sums();
  rules.taxes();
  return rules.broken;
}

/** How far a product may be from its amount: what is rounded twice is two minor units off at most (PEPPOL-EN16931-R120). */
const SLACK = 2;

class Rules {
  readonly broken: string[] = [];
  readonly #invoice: ReadInvoice;

  constructor(invoice: ReadInvoice) {
    this.#invoice = invoice;
  }

  #need(holds: unknown, rule: string, said: string): void {
    if (!holds) this.broken.push(`${rule}: ${said}`);
  }

  #equal(rule: string, what: string, found: Minor, wanted: Minor): void {
    this.#need(found === wanted, rule, `${what} is ${this.#plain(found)} and not ${this.#plain(wanted)}`);
  }

  #plain(amount: Minor): string {
    return plainAmount(amount, this.#invoice.currency);
  }

  document(): void {
    const { specification, number, type, currency, totals, terms, due, paymentMeans, account, preceding } =
      this.#invoice;
    this.#need(specification, 'BR-1', 'it does not say what it follows (BT-24)');
    this.#need(number, 'BR-2', 'it has no number (BT-1)');
    this.#need(['380', '381', '384', '389', '326'].includes(type), 'BR-4', `its type is “${type}” (BT-3)`);
    this.#need(currency, 'BR-5', 'it has no currency (BT-5)');
    this.#need(totals.due <= 0 || due || terms, 'BR-CO-25', 'it says neither when nor how it is due (BT-9, BT-20)');
    this.#need(paymentMeans || !account, 'BR-49', 'an account without a means of payment (BT-81)');
    this.#need(
      !['30', '58'].includes(paymentMeans) || account,
      'BR-61',
      'a credit transfer without an account to pay into (BT-84)',
    );
    this.#need(preceding || type !== '384', 'BR-55', 'a correction without the invoice that it corrects (BT-25)');
  }

  parties(): void {
    const { seller, buyer } = this.#invoice;
    this.#need(seller.name, 'BR-6', 'the seller has no name (BT-27)');
    this.#need(buyer.name, 'BR-7', 'the buyer has no name (BT-44)');
    this.#need(seller.country, 'BR-9', 'the seller has no country (BT-40)');
    this.#need(buyer.country, 'BR-11', 'the buyer has no country (BT-55)');
    for (const [party, term] of [
      [seller, 'BT-31'],
      [buyer, 'BT-48'],
    ] as const) {
      this.#need(
        party.vatId === '' || /^[A-Z]{2}/.test(party.vatId),
        'BR-CO-9',
        `the VAT identifier “${party.vatId}” has no country before it (${term})`,
      );
      this.#need(!party.endpoint || party.endpoint.scheme, 'BR-62', 'an electronic address without its scheme');
    }
  }

  lines(): void {
    const { lines, currency } = this.#invoice;
    this.#need(lines.length > 0, 'BR-16', 'it has no line');
    const seen = new Set<string>();
    for (const line of lines) {
      const name = `line ${line.id}`;
      this.#need(line.id && !seen.has(line.id), 'BR-21', `${name} is not told from the others (BT-126)`);
      seen.add(line.id);
      this.#need(line.quantity, 'BR-22', `${name} has no quantity (BT-129)`);
      this.#need(line.unit, 'BR-23', `${name} has no unit (BT-130)`);
      this.#need(line.text, 'BR-25', `${name} has no text (BT-153)`);
      this.#need(line.price, 'BR-26', `${name} has no price (BT-146)`);
      this.#need(!line.price.startsWith('-'), 'BR-27', `${name} has a price below nothing (BT-146)`);
      this.#need(line.tax.category, 'BR-CO-4', `${name} has no category of tax (BT-151)`);
      for (const each of line.allowances) this.#need(each.reason, 'BR-42', `${name} is reduced without a reason`);
      const off = sumExact(line.allowances.map((each) => (each.charge ? -each.amount : each.amount)));
      const exact = (Number(line.quantity) * Number(line.price) * minorPerMajor(currency)) / Number(line.per);
      this.#need(
        Math.abs(exact - off - line.net) <= SLACK,
        'line amount',
        `${name}: ${line.quantity} at ${line.price} for ${line.per}, less ${this.#plain(off)}, is not ${this.#plain(line.net)}`,
      );
    }
  }

  sums(): void {
    const { totals, lines, allowances, taxes } = this.#invoice;
    const off = sumExact(allowances.filter((each) => !each.charge).map((each) => each.amount));
    const on = sumExact(allowances.filter((each) => each.charge).map((each) => each.amount));
    this.#equal('BR-CO-10', 'the sum of the lines', totals.lines, sumExact(lines.map((line) => line.net)));
    this.#equal('BR-CO-11', 'the sum of the allowances', totals.allowances ?? 0, off);
    this.#equal('BR-CO-12', 'the sum of the charges', totals.charges ?? 0, on);
    this.#equal('BR-CO-13', 'the total without tax', totals.net, totals.lines - off + on);
    this.#equal('BR-CO-14', 'the tax', totals.tax ?? 0, sumExact(taxes.map((tax) => tax.amount)));
    this.#equal('BR-CO-15', 'the total with tax', totals.gross, totals.net + (totals.tax ?? 0));
    this.#equal(
      'BR-CO-16',
      'the amount due',
      totals.due,
      totals.gross - (totals.prepaid ?? 0) + (totals.rounding ?? 0),
    );
    this.#need(taxes.length > 0, 'BR-CO-18', 'it has no breakdown of tax (BG-23)');
    for (const each of allowances) {
      this.#need(each.reason, 'BR-33', 'something is taken off without a reason (BT-97)');
      this.#need(each.tax.category, 'BR-32', 'something is taken off without a category of tax (BT-95)');
    }
  }

  taxes(): void {
    const { taxes, lines, allowances, seller, buyer, delivered } = this.#invoice;
    for (const tax of taxes) {
      const { category } = tax;
      const name = `${category} ${tax.percent} %`;
      const own = (each: ReadTax) =>
        each.category === category && (category === 'O' || Number(each.percent) === Number(tax.percent));
      const basis =
        sumExact(lines.filter((line) => own(line.tax)).map((line) => line.net)) -
        sumExact(allowances.filter((each) => own(each.tax)).map((each) => (each.charge ? -each.amount : each.amount)));
      this.#equal(`BR-${group(category)}-8`, `what ${name} is on`, tax.basis, basis);
      const exact = (tax.basis * Number(tax.percent || '0')) / 100;
      this.#need(
        Math.abs(exact - tax.amount) <= minorPerMajor(this.#invoice.currency),
        'BR-CO-17',
        `${name} of ${this.#plain(tax.basis)} is not ${this.#plain(tax.amount)}`,
      );
      this.#need(category === 'O' || tax.percent !== '', 'BR-48', `${name} has no rate (BT-119)`);
      if (category === 'S') this.#need(Number(tax.percent) > 0, 'BR-S-5', 'a standard rate of nothing');
      else this.#need(Number(tax.percent || '0') === 0, `BR-${group(category)}-5`, `${name} bears a rate`);
      if (category === 'S' || category === 'Z')
        this.#need(!tax.reason, `BR-${category}-10`, `${name} says why nothing is charged`);
      else this.#need(tax.reason, `BR-${group(category)}-10`, `${name} does not say why nothing is charged`);
      if (category === 'O') this.#need(!seller.vatId && !buyer.vatId, 'BR-O-2', 'VAT identifiers outside its scope');
      else this.#need(seller.vatId || seller.taxNumber, `BR-${group(category)}-2`, 'the seller has no tax number');
      if (category === 'AE' || category === 'K')
        this.#need(seller.vatId && buyer.vatId, `BR-${group(category)}-2`, 'a party has no VAT identifier');
      if (category === 'K') this.#need(delivered, 'BR-IC-11', 'it does not say when it was delivered (BT-72)');
    }
    const known = new Set(taxes.map((tax) => tax.category));
    for (const line of lines)
      this.#need(
        known.has(line.tax.category),
        `BR-${group(line.tax.category)}-1`,
        `line ${line.id} has a tax of its own`,
      );
    this.#need(
      !known.has('O') || known.size === 1,
      'BR-O-11',
      'what is outside the scope of tax stands beside other lines',
    );
  }
}

/** Rules of category K are named after the supply within the Community. */
const group = (category: string): string => (category === 'K' ? 'IC' : category);
