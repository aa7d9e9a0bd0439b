import { Suspense } from "react";
import { afterFirstPaint } from "./afterFirstPaint";
import { fetched } from "./fetched";
import type { SheetProps } from "./SheetDialog";

const SheetDialog = fetched(() => import("./SheetDialog"));
afterFirstPaint(SheetDialog.ahead);

/** A dialog that is a full page on a phone and a sheet on a desk. */
export function Sheet(p: SheetProps) {
  return p.open ? (
    <Suspense fallback={null}>
      <SheetDialog {...p} />
    </Suspense>
  ) : null;
}
