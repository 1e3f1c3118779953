import type { Picture } from '@half-penny/core/model';
import { Image, StyleSheet, Text, View } from '@react-pdf/renderer';
import type { ReactNode } from 'react';
import { pictureAddress } from './picture';

/** Who a sheet comes from. */
export interface ReportStudio {
  name: string;
  address: string;
  email: string;
  paper: 'A4' | 'Letter';
}

const SOFT = '#566873';
const style = StyleSheet.create({
  head: { flexDirection: 'row', justifyContent: 'space-between', marginBottom: 18 },
  title: { fontSize: 16, lineHeight: 1.3, fontWeight: 700 },
  soft: { color: SOFT },
  logo: { maxWidth: 140, maxHeight: 48, objectFit: 'contain', objectPositionX: 0, marginBottom: 6 },
  foot: { position: 'absolute', color: SOFT, fontSize: 8 },
});

interface FootProps {
  studio: ReportStudio;
  title: string;
  /** In points from the top: placed from below, text whose line height is set gets lost in the renderer. */
  top: number;
}

/** Whose sheet it is, and "page n of m", on every page. */
export const SheetFoot = ({ studio, title, top }: FootProps) => (
  <>
    <Text style={[style.foot, { top, left: 44 }]} fixed>
      {studio.name} · {title}
    </Text>
    <Text
      style={[style.foot, { top, right: 44 }]}
      fixed
      render={({ pageNumber, totalPages }) => `page ${pageNumber} of ${totalPages}`}
    />
  </>
);

interface HeadProps {
  studio: ReportStudio;
  logo: Picture | undefined;
  title: string;
  period: string;
  children: ReactNode;
}

/** What a sheet is of, beside the studio's own head. */
export const SheetHead = ({ studio, logo, title, period, children }: HeadProps) => (
  <View style={style.head}>
    <View style={{ maxWidth: 330 }}>
      <Text style={style.title}>{title}</Text>
      <Text style={style.soft}>{period}</Text>
      {children}
    </View>
    <View style={{ width: 180 }}>
      {logo && <Image src={pictureAddress(logo)} style={style.logo} />}
      <Text style={{ fontWeight: 700 }}>{studio.name}</Text>
      <SoftLines text={[studio.address, studio.email].join('\n')} />
    </View>
  </View>
);

/** A text's lines, those that are empty left out. */
export const SoftLines = ({ text }: { text: string }) =>
  text
    .split('\n')
    .filter(Boolean)
    .map((line, index) => (
      <Text key={index} style={style.soft}>
        {line}
      </Text>
    ));
