import type { ReportSheet, SheetLine } from '@half-penny/core/reports';
import type { Picture } from '@half-penny/core/model';
import { Document, Image, Page, StyleSheet, Text, View } from '@react-pdf/renderer';
import { fontStackFor } from './fonts';
import { inOrder } from './in-order';
import { pictureAddress } from './picture';

const INK = '#13222b';
const SOFT = '#566873';
const RULE = '#b9c7c6';
const GROUP = '#f1f4f3';
const COPPER = '#9b4518';

/** Who a report comes from. */
export interface ReportStudio {
  name: string;
  address: string;
  email: string;
  paper: 'A4' | 'Letter';
}

const style = StyleSheet.create({
  page: { paddingTop: 44, paddingBottom: 60, paddingHorizontal: 44, fontSize: 9, lineHeight: 1.35, color: INK },
  head: { flexDirection: 'row', justifyContent: 'space-between', marginBottom: 18 },
  title: { fontSize: 16, lineHeight: 1.3, fontWeight: 700 },
  soft: { color: SOFT },
  logo: { maxWidth: 140, maxHeight: 48, objectFit: 'contain', objectPositionX: 0, marginBottom: 6 },
  row: { flexDirection: 'row', borderBottomWidth: 0.5, borderBottomColor: RULE, paddingVertical: 3 },
  tableHead: { flexDirection: 'row', borderBottomWidth: 1, borderBottomColor: INK, paddingBottom: 3, color: SOFT },
  name: { flex: 1, paddingRight: 8 },
  total: { flexDirection: 'row', borderTopWidth: 0.8, borderTopColor: INK, paddingTop: 4, fontWeight: 700 },
  double: { borderTopWidth: 0.8, borderBottomWidth: 0.8, borderColor: COPPER, height: 2.4, marginTop: 2 },
  foot: { position: 'absolute', color: SOFT, fontSize: 8 },
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
        <Text style={[style.foot, { top, left: 44 }]} fixed>
          {studio.name} · {sheet.title}
        </Text>
        <Text
          style={[style.foot, { top, right: 44 }]}
          fixed
          render={({ pageNumber, totalPages }) => `page ${pageNumber} of ${totalPages}`}
        />
        <View style={style.head}>
          <View style={{ maxWidth: 330 }}>
            <Text style={style.title}>{sheet.title}</Text>
            <Text style={style.soft}>{sheet.period}</Text>
            {sheet.note !== '' && <Text style={{ marginTop: 4 }}>{sheet.note}</Text>}
          </View>
          <View style={{ width: 180 }}>
            {logo && <Image src={pictureAddress(logo)} style={style.logo} />}
            <Text style={{ fontWeight: 700 }}>{studio.name}</Text>
            {[...studio.address.split('\n'), studio.email].filter(Boolean).map((line, index) => (
              <Text key={index} style={style.soft}>
                {line}
              </Text>
            ))}
          </View>
        </View>
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
