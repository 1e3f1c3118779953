import type { FrozenInvoice, Picture } from '@half-penny/core/model';
import { Document, Image, Page, Path, StyleSheet, Svg, Text, View } from '@react-pdf/renderer';
import { fontStackFor } from './fonts';
import { drawnCode } from './code';
import { SlipPage } from './swiss-slip';
import type { PaperDesign } from './designs';
import { inOrder } from './in-order';
import { pictureAddress } from './picture';
import { invoiceView, type InvoiceView, type LineView } from './invoice-view';
import { wordsIn } from './words';

const INK = '#13222b';
const SOFT = '#566873';
const RULE = '#b9c7c6';
/** Pale enough to read what stands above it. */
const VOID_INK = '#e3c9c9';

const style = StyleSheet.create({
  page: { paddingTop: 48, paddingBottom: 64, paddingHorizontal: 48, fontSize: 9.5, lineHeight: 1.4, color: INK },
  head: { flexDirection: 'row', justifyContent: 'space-between', marginBottom: 22 },
  edge: { position: 'absolute', top: 0, left: 0, right: 0, height: 10 },
  band: {
    marginHorizontal: -48,
    marginTop: -48,
    paddingHorizontal: 48,
    paddingTop: 30,
    paddingBottom: 16,
    marginBottom: 20,
  },
  title: { fontSize: 22, lineHeight: 1.2, fontWeight: 700, marginBottom: 8 },
  dueAmount: { fontSize: 19, lineHeight: 1.25, fontWeight: 700 },
  asked: { width: 210 },
  second: { flexDirection: 'row', justifyContent: 'space-between', marginBottom: 24 },
  logo: { maxWidth: 160, maxHeight: 56, objectFit: 'contain', objectPositionX: 0, marginBottom: 8 },
  studioName: { fontSize: 16, lineHeight: 1.3, fontWeight: 700, marginBottom: 6 },
  soft: { color: SOFT },
  facts: { width: 210 },
  fact: { flexDirection: 'row', borderBottomWidth: 0.5, borderBottomColor: RULE, paddingVertical: 2 },
  factLabel: { width: 56, color: SOFT },
  factValue: { flex: 1, fontWeight: 700 },
  client: { maxWidth: 260 },
  row: { flexDirection: 'row', borderBottomWidth: 0.5, borderBottomColor: RULE, paddingVertical: 4 },
  tableHead: { flexDirection: 'row', borderBottomWidth: 1, paddingBottom: 3, color: SOFT },
  text: { flex: 1, paddingRight: 12 },
  quantity: { width: 84, textAlign: 'right' },
  price: { width: 84, textAlign: 'right' },
  amount: { width: 90, textAlign: 'right' },
  book: { width: 72, textAlign: 'right' },
  markup: { width: 48, textAlign: 'right' },
  heading: { fontWeight: 700, fontSize: 10.5, marginTop: 10, marginBottom: 2 },
  subtotal: { flexDirection: 'row', justifyContent: 'flex-end', paddingVertical: 3, fontWeight: 700 },
  totals: { alignSelf: 'flex-end', width: 290, marginTop: 6 },
  total: { flexDirection: 'row', justifyContent: 'space-between', paddingVertical: 2 },
  toPay: { borderTopWidth: 0.8, borderTopColor: INK, marginTop: 3, paddingTop: 4, fontWeight: 700, fontSize: 11 },
  under: { marginTop: 1, width: 90, alignSelf: 'flex-end' },
  below: { marginTop: 20, maxWidth: 340 },
  label: { color: SOFT, marginBottom: 2 },
  foot: { position: 'absolute', color: SOFT, fontSize: 8 },
  void: {
    position: 'absolute',
    top: 330,
    left: 90,
    fontSize: 130,
    fontWeight: 700,
    color: VOID_INK,
    transform: 'rotate(-32deg)',
  },
  rate: { width: 42, textAlign: 'right' },
  opening: { marginBottom: 10, maxWidth: 420 },
});

/** Lines kept together with the totals, so that totals never stand alone on a page. */
const LINES_WITH_TOTALS = 2;
/** In points from the top: placed from below, text whose line height is set gets lost in the renderer. */
const FOOT_TOP = { A4: 800, Letter: 750 } as const;
/** A longer text may break over pages; keeping it whole would leave a page empty, or never fit. */
const WHOLE_UP_TO = 600;

interface InvoicePdfProps {
  invoice: FrozenInvoice;
  logo?: Picture | undefined;
  /** Says so beside the number. */
  copy?: boolean;
  /** Says so across each page. */
  voided?: boolean;
}

/** An invoice on paper: A4 or US Letter, table heads repeated on each page, "page n of m". */
export function InvoicePdf({ invoice, logo, copy = false, voided = false }: InvoicePdfProps) {
  const view = inOrder(
    invoiceView(invoice, copy ? wordsIn(invoice)('copy', { number: invoice.number }) : invoice.number),
  );
  const fontFamily = fontStackFor(JSON.stringify(view));
  const early = view.lines.slice(0, -LINES_WITH_TOTALS);
  const last = view.lines.slice(-LINES_WITH_TOTALS);
  const lastFit = last.every((line) => line.text.length <= WHOLE_UP_TO);
  return (
    <Document
      title={`${view.title} ${view.number}${voided ? ', void' : ''}`}
      author={view.studioName}
      creator="Half Penny"
      producer="Half Penny"
      pdfVersion="1.7"
    >
      <Page size={invoice.paper === 'A4' ? 'A4' : 'LETTER'} style={[style.page, { fontFamily }]}>
        {voided && (
          <Text style={style.void} fixed>
            VOID
          </Text>
        )}
        <Foot view={view} top={FOOT_TOP[invoice.paper]} />
        <Head view={view} logo={logo} />
        <Opening view={view} />
        <TableHead view={view} />
        {(lastFit ? early : view.lines).map((line) => (
          <Line key={line.key} line={line} view={view} />
        ))}
        <View wrap={false}>
          {lastFit && last.map((line) => <Line key={line.key} line={line} view={view} />)}
          <Totals view={view} />
        </View>
        <Options view={view} />
        <Below view={view} />
      </Page>
      {view.slip && !voided && <SlipPage slip={view.slip} language={invoice.language ?? 'en'} />}
    </Document>
  );
}

function Head({ view, logo }: { view: InvoiceView; logo: Picture | undefined }) {
  const { accent, tint, head } = view.design;
  const studio = <Studio key="studio" view={view} logo={logo} />;
  const asked = <Asked key="asked" view={view} />;
  const client = <Client key="client" view={view} />;
  const facts = <Facts key="facts" view={view} />;
  if (head === 'band') {
    return (
      <>
        <View style={[style.band, { backgroundColor: tint }]}>
          <View style={[style.head, { marginBottom: 0 }]}>
            {asked}
            {facts}
          </View>
        </View>
        <View style={style.second}>
          {client}
          {studio}
        </View>
      </>
    );
  }
  return (
    <>
      {head === 'edge' && <View style={[style.edge, { backgroundColor: accent }]} />}
      <View style={style.head}>{head === 'right' ? [asked, studio] : [studio, asked]}</View>
      <View style={style.second}>
        {client}
        {facts}
      </View>
    </>
  );
}

function Studio({ view, logo }: { view: InvoiceView; logo: Picture | undefined }) {
  return (
    <View style={{ width: 250 }}>
      {logo && <Image src={pictureAddress(logo)} style={style.logo} />}
      <Text style={style.studioName}>{view.studioName}</Text>
      {view.studio.map((row, index) => (
        <Text key={index} style={style.soft}>
          {row}
        </Text>
      ))}
    </View>
  );
}

/** What it is, and what one sees first: how much, until when. */
function Asked({ view: { title, due, design } }: { view: InvoiceView }) {
  return (
    <View style={style.asked}>
      <Text style={[style.title, { color: design.accent }]}>{title}</Text>
      <Text style={style.soft}>{due.label}</Text>
      <Text style={style.dueAmount}>{due.amount}</Text>
      {due.by !== '' && <Text>{due.by}</Text>}
    </View>
  );
}

function Client({ view }: { view: InvoiceView }) {
  return (
    <View style={style.client}>
      {view.client.map((row, index) => (
        <Text key={index} style={index === 0 ? { fontWeight: 700 } : {}}>
          {row}
        </Text>
      ))}
    </View>
  );
}

function Facts({ view }: { view: InvoiceView }) {
  return (
    <View style={style.facts}>
      {view.facts.map(([label, value]) => (
        <View key={label} style={style.fact}>
          <Text style={style.factLabel}>{label}</Text>
          <Text style={style.factValue}>{value}</Text>
        </View>
      ))}
    </View>
  );
}

/** Stands at the foot of every page; it is first in the page, since what is fixed shows from where it stands in it onwards. */
function Foot({ view, top }: { view: InvoiceView; top: number }) {
  const t = wordsIn(view);
  return (
    <>
      <Text style={[style.foot, { top, left: 48 }]} fixed>
        {view.studioName} · {view.number}
      </Text>
      <Text
        style={[style.foot, { top, right: 48 }]}
        fixed
        render={({ pageNumber, totalPages }) => t('page', { page: pageNumber, pages: totalPages })}
      />
    </>
  );
}

function TableHead({ view: { openBook, rates, design, labels } }: { view: InvoiceView }) {
  return (
    <View style={[style.tableHead, { borderBottomColor: design.accent }]} fixed>
      <Text style={style.text}>{labels.description}</Text>
      <Text style={style.quantity}>{labels.quantity}</Text>
      <Text style={style.price}>{labels.price}</Text>
      {openBook && <Text style={style.book}>{labels.cost}</Text>}
      {openBook && <Text style={style.markup}>{labels.markup}</Text>}
      {rates && <Text style={style.rate}>{labels.tax}</Text>}
      <Text style={style.amount}>{labels.amount}</Text>
    </View>
  );
}

function Line({ line, view: { openBook, rates } }: { line: LineView; view: InvoiceView }) {
  return (
    <>
      {line.heading !== '' && (
        <Text style={style.heading} minPresenceAhead={40}>
          {line.heading}
        </Text>
      )}
      <View style={style.row} wrap={line.text.length > WHOLE_UP_TO}>
        <View style={style.text}>
          <Text>{line.text}</Text>
          {line.discount !== '' && <Text style={style.soft}>{line.discount}</Text>}
        </View>
        <Text style={style.quantity}>{line.quantity}</Text>
        <Text style={style.price}>{line.price}</Text>
        {openBook && <Text style={style.book}>{line.cost}</Text>}
        {openBook && <Text style={style.markup}>{line.markup}</Text>}
        {rates && <Text style={style.rate}>{line.rate}</Text>}
        <Text style={style.amount}>{line.amount}</Text>
      </View>
      {line.subtotal !== '' && (
        <View style={style.subtotal}>
          <Text>{line.subtotal}</Text>
        </View>
      )}
    </>
  );
}

/** What a quote says before its lines. */
function Opening({ view: { opening } }: { view: InvoiceView }) {
  const [title, ...rows] = opening;
  if (title === undefined) return null;
  return (
    <View style={style.opening}>
      <Text style={style.heading}>{title}</Text>
      {rows.map((row, index) => (
        <Text key={index}>{row}</Text>
      ))}
    </View>
  );
}

/** What may be added to a quote. */
function Options({ view }: { view: InvoiceView }) {
  if (view.options.length === 0) return null;
  return (
    <View style={style.below}>
      <Text style={style.heading} minPresenceAhead={40}>
        {view.labels.optional}
      </Text>
      {view.options.map((line) => (
        <Line key={line.key} line={line} view={view} />
      ))}
    </View>
  );
}

function Totals({ view }: { view: InvoiceView }) {
  return (
    <View style={style.totals}>
      {view.totals.map((total, index) => (
        <View
          key={index}
          style={total.strong ? [style.total, style.toPay] : total.beside ? [style.total, style.soft] : style.total}
        >
          <Text>{total.label}</Text>
          <Text>{total.amount}</Text>
        </View>
      ))}
      <View style={[style.under, underSum(view.design)]} />
    </View>
  );
}

/** What stands under the sum. */
function underSum({ accent, rule }: PaperDesign) {
  if (rule === 'thick') return { height: 2.4, backgroundColor: accent };
  const double = rule === 'double';
  return {
    borderTopWidth: 0.8,
    borderBottomWidth: double ? 0.8 : 0,
    borderColor: accent,
    height: double ? 2.4 : 0.8,
  };
}

/** Points to a side: 25 mm, which a telephone reads at arm's length. */
const CODE = 71;

/** The code with its quiet zone of four units; white below it, whatever the paper is. */
function PayCode({ text, says }: { text: string; says: string }) {
  const { size, path } = drawnCode(text);
  return (
    <View style={{ marginTop: 8 }}>
      <Svg width={CODE} height={CODE} viewBox={`-4 -4 ${size + 8} ${size + 8}`}>
        <Path d={`M-4 -4h${size + 8}v${size + 8}h-${size + 8}z`} fill="#ffffff" />
        <Path d={path} fill="#000000" />
      </Svg>
      <Text style={style.label}>{says}</Text>
    </View>
  );
}

function Below({ view }: { view: InvoiceView }) {
  return (
    <>
      {view.notes.length > 0 && (
        <View style={style.below}>
          {view.notes.map((row, index) => (
            <Text key={index}>{row}</Text>
          ))}
        </View>
      )}
      {view.payment.length > 0 && (
        <View style={style.below} wrap={false}>
          <Text style={style.label}>{view.labels.howToPay}</Text>
          {view.payment.map((row, index) => (
            <Text key={index}>{row}</Text>
          ))}
          {view.payCode !== '' && <PayCode text={view.payCode} says={view.labels.payByCode} />}
        </View>
      )}
    </>
  );
}
