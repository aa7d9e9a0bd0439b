import type { ReactNode, SVGProps } from "react";
import { type Corner, usePlanView } from "./planView";

type Drawn<T> = Omit<SVGProps<T>, "points"> & { corners: Corner[] };

/** A line over the ground; its width and dashes are in pixels at every zoom. */
export function Way({ corners, ...look }: Drawn<SVGPolylineElement>) {
  return <polyline points={usePlanView().path(corners)} fill="none" strokeLinejoin="round" {...look} />;
}

/** An area on the ground. */
export function Area({ corners, ...look }: Drawn<SVGPolygonElement>) {
  return <polygon points={usePlanView().path(corners)} strokeLinejoin="round" {...look} />;
}

/** A thing of its own size at a place on the ground; `text` is what it is, `onChoose` makes it a button. */
export function Pin(p: {
  at: Corner;
  text: string;
  size: number;
  above?: number;
  className?: string;
  onChoose?: () => void;
  children: ReactNode;
}) {
  const [x, y] = usePlanView().toPicture(p.at);
  const place = {
    left: x - p.size / 2,
    top: y - p.size / 2,
    width: p.size,
    height: p.size,
    zIndex: p.above ?? 0,
  };
  const { onChoose } = p;
  return onChoose ? (
    <button
      type="button"
      tabIndex={-1}
      title={p.text}
      aria-label={p.text}
      className={`absolute ${p.className ?? ""}`}
      style={place}
      onClick={(e) => {
        e.stopPropagation();
        onChoose();
      }}
    >
      {p.children}
    </button>
  ) : (
    <div
      role="img"
      title={p.text}
      aria-label={p.text}
      className={`absolute ${p.className ?? ""}`}
      style={place}
    >
      {p.children}
    </div>
  );
}
