import { lazy, Suspense } from "react";
import { afterFirstPaint } from "./afterFirstPaint";
import type { SheetProps } from "./SheetDialog";

const load = () => import("./SheetDialog");
const SheetDialog = lazy(load);
afterFirstPaint(load);

/** A dialog that is a full page on a phone and a sheet on a desk. */
export function Sheet(p: SheetProps) {
  return p.open ? (
    <Suspense fallback={null}>
      <SheetDialog {...p} />
    </Suspense>
  ) : null;
}
