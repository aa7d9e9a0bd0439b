import { type ReactNode, useEffect, useRef, useState } from "react";

/**
 * Shows its children once it has come near the screen: what takes computing is not asked for before. It keeps its
 * height while they come: a page that got shorter would move from under a thumb.
 */
export function WhenSeen({ title, children }: { title: string; children: ReactNode }) {
  const place = useRef<HTMLDivElement>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    if (!place.current) return;
    const look = new IntersectionObserver(([e]) => e?.isIntersecting && setSeen(true), {
      rootMargin: "100px",
    });
    look.observe(place.current);
    return () => look.disconnect();
  }, []);
  return (
    <div ref={place} className="min-h-80">
      {seen ? (
        children
      ) : (
        <section className="card min-h-80" aria-label={title}>
          <h2>{title}</h2>
        </section>
      )}
    </div>
  );
}
