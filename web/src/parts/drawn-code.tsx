import { drawnCode } from '@half-penny/documents';
import { useMemo } from 'react';

/** A QR code, dark on light in either theme: that is how cameras know it. @param label what it is, for assistive technology */
export function DrawnCode({ text, label }: { text: string; label: string }) {
  const { size, path } = useMemo(() => drawnCode(text), [text]);
  return (
    <svg
      role="img"
      aria-label={label}
      viewBox={`-3 -3 ${size + 6} ${size + 6}`}
      className="w-full bg-white"
      shapeRendering="crispEdges"
    >
      <path d={path} fill="black" />
    </svg>
  );
}
