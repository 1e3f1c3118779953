import { checkPage, signAnswer, type Answer, type ClientPage } from '@half-penny/core/client-page';
import { showAmount, sumExact } from '@half-penny/core/money';

// What a client's page does by itself, in the client's browser. It is built as one piece and put into the page; it asks for nothing.

const page = JSON.parse(document.getElementById('page')!.textContent) as ClientPage;
const { currency, numberStyle } = page.frozen;

const reveal = (id: string): HTMLElement => {
  const element = document.getElementById(id)!;
  element.hidden = false;
  return element;
};

/** The figure that a path of the document leads to. */
function figureAt(path: string): number | undefined {
  const turned = path.startsWith('-');
  let at: unknown = page.frozen;
  for (const key of path.slice(turned ? 1 : 0).split('/')) at = (at as Record<string, unknown> | undefined)?.[key];
  return typeof at === 'number' ? (turned ? -at : at) : undefined;
}

/** Does the sums again, and compares what is read on the page with them. */
function check(): void {
  const { sums, wrong } = checkPage(page);
  const shown = [...document.querySelectorAll<HTMLElement>('[data-of]')];
  const other = shown.filter((element) => {
    const figure = figureAt(element.dataset.of!);
    return figure === undefined || showAmount(figure, currency, numberStyle) !== element.textContent;
  });
  document.getElementById('unchecked')!.hidden = true;
  if (wrong.length > 0 || other.length > 0) {
    for (const element of other) element.classList.add('wrong');
    for (const { path } of wrong) document.querySelector(`[data-of="${path}"]`)?.classList.add('wrong');
    reveal('wrong');
    return;
  }
  const checked = reveal('checked');
  const count = sums + shown.length;
  const says = checked.dataset as { one: string; other: string };
  const one = new Intl.PluralRules(document.documentElement.lang).select(count) === 'one';
  checked.querySelector('[data-says]')!.textContent = (one ? says.one : says.other).replace('#', String(count));
}

/** An answer to a quote: signed, and sent to the local server or saved as a file. */
function answering(form: HTMLFormElement, quote: NonNullable<ClientPage['quote']>): void {
  const boxes = [...form.querySelectorAll<HTMLInputElement>('input[name=line]')];
  const chosen = () => boxes.filter((box) => box.checked).map((box) => box.value);
  const sum = form.querySelector('output')!;
  const total = () => {
    const keys = new Set(chosen());
    const amounts = quote.choices.filter(({ key }) => keys.has(key)).map(({ amount }) => amount);
    sum.textContent = showAmount(sumExact(amounts), currency, numberStyle);
  };
  form.addEventListener('change', total);
  total();
  const faults = form.querySelector<HTMLElement>('[role=alert]')!;
  form.addEventListener('submit', (event) => {
    event.preventDefault();
    const decision = (event.submitter as HTMLButtonElement).value as Answer['decision'];
    const typed = new FormData(form);
    const by = (typed.get('by') as string).trim();
    const keys = decision === 'accepted' ? chosen() : [];
    const { name = '', lines = '' } = faults.dataset;
    faults.textContent = by === '' ? name : decision === 'accepted' && keys.length === 0 ? lines : '';
    if (faults.textContent !== '') return;
    const answer: Answer = {
      what: 'answer to a quote',
      form: 1,
      quoteId: quote.id,
      number: page.frozen.number,
      digest: quote.digest,
      decision,
      keys,
      by: by.slice(0, 200),
      note: (typed.get('note') as string).trim().slice(0, 1000),
      at: new Date().toISOString(),
    };
    const signed = signAnswer(answer, quote.seal);
    if (location.protocol === 'file:' || form.dataset.home !== 'server') return saved(signed);
    (form.elements.namedItem('signed') as HTMLInputElement).value = signed;
    form.action = `${location.pathname}/answer`;
    form.submit();
  });
}

function saved(signed: string): void {
  const link = document.createElement('a');
  link.download = `answer-${page.frozen.number.replace(/[^\w.-]+/g, '-')}.json`;
  link.href = `data:application/json;charset=utf-8,${encodeURIComponent(signed)}`;
  link.click();
  reveal('saved').focus();
}

check();
const form = document.querySelector('form');
if (form && page.quote) {
  form.hidden = false;
  // The server says so itself where it serves the page.
  if (location.protocol !== 'file:' && /^\/pages\//.test(location.pathname)) form.dataset.home = 'server';
  answering(form, page.quote);
}
if (location.hash === '#answered') {
  reveal('answered').focus();
  if (form) form.hidden = true;
}
