import { type ReactNode, useEffect, useRef, useState } from "react";

/** Shows its children once it has come near the screen: what takes computing is not asked for before. */
export function WhenSeen({ title, children }: { title: string; children: ReactNode }) {
  const place = useRef<HTMLElement>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    if (!place.current) return;
    const look = new IntersectionObserver(([e]) => e?.isIntersecting && setSeen(true), {
      rootMargin: "100px",
    });
    look.observe(place.current);
    return () => look.disconnect();
  }, []);
  if (seen) return children;
  return (
    <section ref={place} className="card min-h-80" aria-label={title}>
      <h2>{title}</h2>
    </section>
  );
}
