import type { ReportSheet, SheetLine } from '@half-penny/core/reports';
import type { Picture } from '@half-penny/core/model';
import { Document, Page, StyleSheet, Text, View } from '@react-pdf/renderer';
import { fontStackFor } from './fonts';
import { inOrder } from './in-order';
import { SheetFoot, SheetHead, type ReportStudio } from './sheet-head';

const INK = '#13222b';
const SOFT = '#566873';
const RULE = '#b9c7c6';
const GROUP = '#f1f4f3';
const COPPER = '#9b4518';

const style = StyleSheet.create({
  page: { paddingTop: 44, paddingBottom: 60, paddingHorizontal: 44, fontSize: 9, lineHeight: 1.35, color: INK },
  row: { flexDirection: 'row', borderBottomWidth: 0.5, borderBottomColor: RULE, paddingVertical: 3 },
  tableHead: { flexDirection: 'row', borderBottomWidth: 1, borderBottomColor: INK, paddingBottom: 3, color: SOFT },
  name: { flex: 1, paddingRight: 8 },
  total: { flexDirection: 'row', borderTopWidth: 0.8, borderTopColor: INK, paddingTop: 4, fontWeight: 700 },
  double: { borderTopWidth: 0.8, borderBottomWidth: 0.8, borderColor: COPPER, height: 2.4, marginTop: 2 },
});

/** Figures beside one another on an upright page; with more it is laid on its side. */
const UPRIGHT = 5;
/** In points from the top, as the invoice has it. */
const FOOT_TOP = { A4: { up: 804, aside: 558 }, Letter: { up: 754, aside: 574 } } as const;

/** A report on paper, with the studio's head: heads repeated on each page, "page n of m". */
export function ReportPdf({
  sheet: written,
  studio,
  logo,
}: {
  sheet: ReportSheet;
  studio: ReportStudio;
  logo?: Picture | undefined;
}) {
  const sheet = inOrder(written);
  const fontFamily = fontStackFor(JSON.stringify([sheet, studio]));
  const aside = sheet.heads.length > UPRIGHT;
  const width = Math.min(82, (aside ? 560 : 380) / Math.max(1, sheet.heads.length));
  const top = FOOT_TOP[studio.paper][aside ? 'aside' : 'up'];
  const depth = sheet.levels.length;
  return (
    <Document title={sheet.title} author={studio.name} creator="Half Penny" producer="Half Penny">
      <Page
        size={studio.paper === 'A4' ? 'A4' : 'LETTER'}
        orientation={aside ? 'landscape' : 'portrait'}
        style={[style.page, { fontFamily }]}
      >
        <SheetFoot studio={studio} title={sheet.title} top={top} />
        <SheetHead {...{ studio, logo }} title={sheet.title} period={sheet.period}>
          {sheet.note !== '' && <Text style={{ marginTop: 4 }}>{sheet.note}</Text>}
        </SheetHead>
        <View style={style.tableHead} fixed>
          <Text style={style.name}>{sheet.levels.join(' / ')}</Text>
          {sheet.heads.map(({ label }, index) => (
            <Text key={index} style={{ width, textAlign: 'right', paddingLeft: 4 }}>
              {label}
            </Text>
          ))}
        </View>
        {sheet.lines.map((line, index) => (
          <Line key={index} line={line} width={width} group={line.depth < depth} />
        ))}
        <View wrap={false}>
          <View style={style.total}>
            <Text style={style.name}>All</Text>
            <Cells line={sheet.total} width={width} />
          </View>
          <View style={style.double} />
        </View>
      </Page>
    </Document>
  );
}

function Line({ line, width, group }: { line: SheetLine; width: number; group: boolean }) {
  return (
    <View
      style={[style.row, group ? { backgroundColor: GROUP, fontWeight: 700 } : {}]}
      wrap={line.path.at(-1)!.length > 600}
      // A group's name never stands alone at the foot of a page.
      {...(group ? { minPresenceAhead: 28 } : {})}
    >
      <Text style={[style.name, { paddingLeft: (line.depth - 1) * 10 }]}>{line.path.at(-1)}</Text>
      <Cells line={line} width={width} />
    </View>
  );
}

const Cells = ({ line, width }: { line: SheetLine; width: number }) =>
  line.cells.map((cell, index) => (
    <Text key={index} style={{ width, textAlign: 'right', paddingLeft: 4 }}>
      {cell.text}
    </Text>
  ));
