import type { Slip, SlipParty } from '@half-penny/core/e-invoice';
import type { DocumentLanguage } from '@half-penny/core/model';
import { plainAmount } from '@half-penny/core/money';
import { G, Line, Page, Path, Svg, Text } from '@react-pdf/renderer';
import { XMLParser } from 'fast-xml-parser';
import type { ReactNode } from 'react';
import { SwissQRBill } from 'swissqrbill/svg';
import { slipFace } from './fonts';

// The payment part is laid out by the library; what it draws as SVG is drawn here on a page of the invoice, in a face that is kept in the file.

const MM = 72 / 25.4;
const A4 = { width: 210 * MM, height: 297 * MM };
const HEIGHT = 105 * MM;
/** Languages that the payment part is printed in; others read English. */
const LANGUAGES: Partial<Record<DocumentLanguage, 'DE' | 'FR' | 'IT'>> = { de: 'DE', fr: 'FR', it: 'IT' };

/** The part as SVG, as the library lays it out. */
export function slipSvg(slip: Slip, language: DocumentLanguage): string {
  const { account, creditor, debtor, currency, amount, reference, message } = slip;
  const party = ({ name, street, postCode, city, country }: SlipParty) => ({
    name,
    address: street,
    zip: postCode,
    city,
    country,
  });
  const bill = new SwissQRBill(
    {
      currency,
      amount: Number(plainAmount(amount, currency)),
      creditor: { ...party(creditor), account },
      ...(debtor && { debtor: party(debtor) }),
      ...(reference && { reference }),
      ...(message && { message }),
    },
    { language: LANGUAGES[language] ?? 'EN' },
  );
  return bill.toString();
}

/** A page with the payment part at its foot, as the bank wants it: A4, 105 mm high. */
export function SlipPage({ slip, language }: { slip: Slip; language: DocumentLanguage }) {
  return (
    <Page size="A4" style={{ position: 'relative' }}>
      <Svg
        width={A4.width}
        height={HEIGHT}
        viewBox={`0 0 ${A4.width} ${HEIGHT}`}
        style={{ position: 'absolute', left: 0, top: A4.height - HEIGHT }}
      >
        {drawn(slipSvg(slip, language))}
      </Svg>
    </Page>
  );
}

/** An element as it is read, its children in their order. */
type Read = { ':@'?: Record<string, string>; '#text'?: string } & { [name: string]: unknown };

/** Where the next text stands. */
interface Pen {
  x: number;
  y: number;
}

const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  parseTagValue: false,
  trimValues: false,
});

const drawn = (svg: string): ReactNode[] => {
  const [root] = parser.parse(svg) as Read[];
  return [
    <Line key="top" x1={0} y1={0.5} x2={A4.width} y2={0.5} strokeWidth={0.75} stroke="black" strokeDasharray="2" />,
    ...childrenOf(root!, 'svg').flatMap((each, index) => element(each, { x: 0, y: 0 }, String(index))),
  ];
};

const childrenOf = (node: Read, name: string): Read[] => node[name] as Read[];
const nameOf = (node: Read): string => Object.keys(node).find((key) => key !== ':@')!;

/** A length in points: "5mm", "11pt", "46px"; pixels are 96 to an inch. */
function points(text: string | undefined): number {
  const [, figure = '0', unit = 'px'] = /^(-?[\d.]+)(mm|pt|px)?$/.exec(text ?? '0') ?? [];
  return Number(figure) * { mm: MM, pt: 1, px: 0.75 }[unit as 'mm' | 'pt' | 'px'];
}

function element(node: Read, at: Pen, key: string): ReactNode[] {
  const name = nameOf(node);
  const own = node[':@'] ?? {};
  if (name === 'svg') {
    const inside = { x: at.x + points(own.x), y: at.y + points(own.y) };
    const children = childrenOf(node, 'svg');
    const squares = children.filter((each) => nameOf(each) === 'rect');
    const others = children.filter((each) => nameOf(each) !== 'rect');
    return [
      ...squaresOf(squares, inside, key),
      ...others.flatMap((each, index) => element(each, inside, `${key}.${index}`)),
    ];
  }
  if (name === 'text') return textOf(node, at, key);
  if (name === 'line') {
    const [x1, y1, x2, y2] = ['x1', 'y1', 'x2', 'y2'].map((field) => points(own[field]));
    return [
      <Line
        key={key}
        x1={at.x + x1!}
        y1={at.y + y1!}
        x2={at.x + x2!}
        y2={at.y + y2!}
        strokeWidth={0.75}
        stroke="black"
        {...(own['stroke-dasharray'] && { strokeDasharray: '2' })}
      />,
    ];
  }
  if (name !== 'path') return [];
  return [
    <G key={key} transform={`translate(${at.x} ${at.y}) scale(0.75)`}>
      <Path d={own.d ?? ''} fill={own.fill ?? 'black'} />
    </G>,
  ];
}

/** Squares of one colour are one path, so that a code of a thousand of them stays small; in the order of the colours, the last on top. */
function squaresOf(squares: readonly Read[], at: Pen, key: string): ReactNode[] {
  const paths: { fill: string; d: string }[] = [];
  for (const square of squares) {
    const own = square[':@'] ?? {};
    const [x, y, w, h] = ['x', 'y', 'width', 'height'].map((field) => points(own[field]));
    const fill = own.fill ?? 'black';
    if (paths.at(-1)?.fill !== fill) paths.push({ fill, d: '' });
    paths.at(-1)!.d += `M${at.x + x!} ${at.y + y!}h${w}v${h}h${-w!}z`;
  }
  return paths.map(({ fill, d }, index) => <Path key={`${key}-${index}`} d={d} fill={fill} />);
}

/** A text, or the lines within it: each goes on from the line before. */
function textOf(node: Read, at: Pen, key: string): ReactNode[] {
  const own = node[':@'] ?? {};
  const pen = { x: points(own.x), y: points(own.y) };
  const spans = childrenOf(node, 'text').filter((each) => nameOf(each) === 'tspan');
  const pieces = spans.length > 0 ? spans : [node];
  return pieces.flatMap((piece, index) => {
    const said = piece[':@'] ?? {};
    if (said.x !== undefined) pen.x = points(said.x);
    if (said.y !== undefined) pen.y = points(said.y);
    pen.y += points(said.dy);
    const words = childrenOf(piece, nameOf(piece))
      .map((each) => each['#text'] ?? '')
      .join('');
    if (words === '') return [];
    return [
      <Text
        key={`${key}-${index}`}
        x={at.x + pen.x}
        y={at.y + pen.y}
        textAnchor={said['text-anchor'] === 'end' ? 'end' : 'start'}
        style={{
          fontFamily: slipFace,
          fontSize: points(said['font-size']),
          fontWeight: said['font-weight'] === 'bold' ? 700 : 400,
        }}
      >
        {words}
      </Text>,
    ];
  });
}
