import { afterFirstPaint } from "./afterFirstPaint";
import { fetched, Nothing } from "./fetched";
import type { SheetProps } from "./SheetDialog";

const SheetDialog = fetched(() => import("./SheetDialog"), Nothing);
afterFirstPaint(SheetDialog.ahead);

/** A dialog that is a full page on a phone and a sheet on a desk. */
export function Sheet(p: SheetProps) {
  return p.open ? <SheetDialog {...p} /> : null;
}
