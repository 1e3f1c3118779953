import { accountWords, closingWords, type AccountPaper, type AccountStatement } from '@half-penny/core/billing';
import type { Picture } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { showDayShort } from '@half-penny/core/time';
import { Document, Page, StyleSheet, Text, View } from '@react-pdf/renderer';
import { fontStackFor } from './fonts';
import { inOrder } from './in-order';
import { SheetFoot, SheetHead, SoftLines } from './sheet-head';

const INK = '#13222b';
const SOFT = '#566873';
const RULE = '#b9c7c6';
const COPPER = '#9b4518';

const style = StyleSheet.create({
  page: { paddingTop: 44, paddingBottom: 60, paddingHorizontal: 44, fontSize: 9, lineHeight: 1.35, color: INK },
  part: { fontSize: 11, fontWeight: 700, marginTop: 14, marginBottom: 4 },
  row: { flexDirection: 'row', borderBottomWidth: 0.5, borderBottomColor: RULE, paddingVertical: 3 },
  tableHead: { flexDirection: 'row', borderBottomWidth: 1, borderBottomColor: INK, paddingBottom: 3, color: SOFT },
  total: { flexDirection: 'row', paddingTop: 4, fontWeight: 700 },
  double: { borderTopWidth: 0.8, borderBottomWidth: 0.8, borderColor: COPPER, height: 2.4, marginTop: 2 },
  day: { width: 64 },
  what: { flex: 1, paddingRight: 8 },
  amount: { width: 84, textAlign: 'right', paddingLeft: 4 },
});

/** In points from the top, as the invoice has it. */
const FOOT_TOP = { A4: 804, Letter: 754 } as const;

/** A client's statement of account on paper: each currency by itself, what moved with the balance after it, and what is open. */
export function AccountPdf({ paper: given, logo }: { paper: AccountPaper; logo?: Picture | undefined }) {
  const { studio, client, from, to, statements } = inOrder(given);
  const fontFamily = fontStackFor(JSON.stringify([studio, client, statements]));
  const title = 'Statement of account';
  return (
    <Document title={`${title}, ${client.name}`} author={studio.name} creator="Half Penny" producer="Half Penny">
      <Page size={studio.paper === 'A4' ? 'A4' : 'LETTER'} style={[style.page, { fontFamily }]}>
        <SheetFoot studio={studio} title={`${title}, ${client.name}`} top={FOOT_TOP[studio.paper]} />
        <SheetHead {...{ studio, logo, title }} period={`${showDayShort(from)} to ${showDayShort(to)}`}>
          <Text style={{ marginTop: 8, fontWeight: 700 }}>{client.name}</Text>
          <SoftLines text={client.address} />
        </SheetHead>
        {statements.length === 0 && <Text>Nothing was invoiced or paid up to {showDayShort(to)}.</Text>}
        {statements.map((statement) => (
          <Account key={statement.currency} {...{ statement, from, to }} />
        ))}
      </Page>
    </Document>
  );
}

interface AccountProps {
  statement: AccountStatement;
  from: string;
  to: string;
}

function Account({ statement, from, to }: AccountProps) {
  const { currency, opening, lines, closing, open, ahead } = statement;
  const money = (amount: number) => showAmount(amount, currency);
  return (
    <>
      <Text style={style.part} minPresenceAhead={60}>
        In {currency}
      </Text>
      <Row head cells={['Date', 'What', 'Charged', 'Received', 'Balance']} />
      <Row cells={[showDayShort(from), 'Brought forward', '', '', money(opening)]} />
      {lines.map((line, index) => (
        <Row
          key={index}
          cells={[
            showDayShort(line.day),
            accountWords(line),
            line.amount > 0 ? money(line.amount) : '',
            line.amount < 0 ? money(-line.amount) : '',
            money(line.balance),
          ]}
        />
      ))}
      <View wrap={false}>
        <View style={style.total}>
          <Text style={style.day}>{showDayShort(to)}</Text>
          <Text style={style.what}>{closingWords(closing)}</Text>
          <Text style={style.amount}>{money(Math.abs(closing))}</Text>
        </View>
        <View style={style.double} />
      </View>
      {open.length > 0 && (
        <>
          <Text style={style.part} minPresenceAhead={60}>
            Open
          </Text>
          <Row head cells={['Date', 'Invoice', 'Due', 'Held back', 'Owed']} />
          {open.map((item) => (
            <Row
              key={item.invoiceId}
              cells={[
                showDayShort(item.day),
                item.late > 0 ? `${item.number}, ${item.late} ${item.late === 1 ? 'day' : 'days'} late` : item.number,
                showDayShort(item.dueDay),
                item.held === 0 ? '' : money(item.held),
                money(item.owed),
              ]}
            />
          ))}
        </>
      )}
      {ahead !== 0 && <Text style={{ marginTop: 4 }}>Paid ahead and not taken by an invoice yet: {money(ahead)}</Text>}
    </>
  );
}

/** A day, words, and three figures. */
function Row({ cells, head = false }: { cells: readonly [string, string, string, string, string]; head?: boolean }) {
  const [day, what, ...figures] = cells;
  return (
    <View style={head ? style.tableHead : style.row} wrap={what.length > 600}>
      <Text style={style.day}>{day}</Text>
      <Text style={style.what}>{what}</Text>
      {figures.map((figure, index) => (
        <Text key={index} style={style.amount}>
          {figure}
        </Text>
      ))}
    </View>
  );
}
