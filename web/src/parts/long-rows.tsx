import { useVirtualizer } from '@tanstack/react-virtual';
import {
  useContext,
  useEffect,
  useImperativeHandle,
  useLayoutEffect,
  useRef,
  useState,
  type ReactNode,
  type Ref,
} from 'react';
import { ScrollContext } from './scroll-context';

export interface LongRowsHandle {
  scrollTo: (index: number) => void;
}

interface LongRowsProps {
  count: number;
  keyOf: (index: number) => string;
  render: (index: number) => ReactNode;
  handle: Ref<LongRowsHandle>;
  /** They took the place of rows that stood here until they came. */
  onReady: () => void;
}

const ROW_HEIGHT = 53;

/** The rows of a long ledger: only those near what is seen are rendered. */
export default function LongRows({ count, keyOf, render, handle, onReady }: LongRowsProps) {
  useEffect(() => {
    // What is near is measured first and rendered a few frames later.
    let frames = 12;
    let waiting = 0;
    const look = () => {
      onReady();
      if (frames-- > 0) waiting = requestAnimationFrame(look);
    };
    waiting = requestAnimationFrame(look);
    return () => cancelAnimationFrame(waiting);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when they come
  }, []);
  const scroll = useContext(ScrollContext);
  const own = useRef<HTMLDivElement>(null);
  const [margin, setMargin] = useState(0);
  // Where the window is narrow the page scrolls, not the sheet; then the sheet is as tall as what it holds.
  const scroller = () =>
    scroll.current && scroll.current.scrollHeight > scroll.current.clientHeight
      ? scroll.current
      : document.scrollingElement;
  useLayoutEffect(() => {
    const outer = scroller();
    if (!own.current || !outer) return;
    const top = outer === document.scrollingElement ? 0 : outer.getBoundingClientRect().top;
    setMargin(Math.round(own.current.getBoundingClientRect().top - top + outer.scrollTop));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- measured again only when rows come or go
  }, [count]);
  const virtualizer = useVirtualizer({
    count,
    getScrollElement: () => scroller() as HTMLElement | null,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
    scrollMargin: margin,
    getItemKey: keyOf,
  });
  useImperativeHandle(handle, () => ({ scrollTo: (index) => virtualizer.scrollToIndex(index) }), [virtualizer]);
  return (
    <div ref={own} role="rowgroup" style={{ height: virtualizer.getTotalSize(), position: 'relative' }}>
      {virtualizer.getVirtualItems().map((item) => (
        <div
          key={item.key}
          role="presentation"
          data-index={item.index}
          ref={virtualizer.measureElement}
          style={{ position: 'absolute', insetInline: 0, top: 0, transform: `translateY(${item.start - margin}px)` }}
        >
          {render(item.index)}
        </div>
      ))}
    </div>
  );
}
