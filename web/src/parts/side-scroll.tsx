import { ChevronRight } from 'lucide-react';
import { useEffect, useRef, useState, type ReactNode } from 'react';

/** What is wider than its place: it moves sideways by itself, and a mark at its edge says that there is more. */
export function SideScroll({ label, children }: { label: string; children: ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  const [more, setMore] = useState(false);
  useEffect(() => {
    const own = box.current!;
    const look = () => setMore(own.scrollWidth - own.clientWidth - own.scrollLeft > 1);
    const watch = new ResizeObserver(look);
    watch.observe(own);
    if (own.firstElementChild) watch.observe(own.firstElementChild);
    own.addEventListener('scroll', look, { passive: true });
    return () => {
      watch.disconnect();
      own.removeEventListener('scroll', look);
    };
  }, []);
  const on = () => box.current?.scrollBy({ left: box.current.clientWidth / 2, behavior: 'auto' });
  return (
    <div className="relative" role="group" aria-label={label}>
      <div ref={box} className="overflow-x-auto">
        {children}
      </div>
      {more && (
        <button
          type="button"
          tabIndex={-1}
          aria-hidden
          title="More to the right"
          onClick={on}
          className="absolute top-0 right-0 z-20 flex h-8 items-center rounded-l-md border border-r-0 border-control bg-sheet pr-1 pl-0.5 text-time"
        >
          <ChevronRight size={16} />
        </button>
      )}
    </div>
  );
}
