import type { Schemas } from "../api/client";
import { placeText } from "../api/units";
import { AsTable } from "./AsTable";

type Site = Schemas["SiteView"];

/** What is drawn on the site plan, and where it is, as rows of text. */
export function PlanTable({ site }: { site: Site }) {
  const at = (corner: [number, number]) => placeText(corner, site.units);
  const along = (corners: [number, number][]) => corners.map(at).join("; ");
  return (
    <AsTable
      head={["What", "About it", "East and north"]}
      rows={[
        ...site.lines.map((l) => [l.name, l.text, along(l.corners)]),
        ...site.access.map((a) => [
          a.name,
          `${a.text}${a.lines.length ? `; reaches ${a.lines.join(", ")}` : ""}`,
          at(a.at),
        ]),
        ...[...site.structures, ...site.hard].map((t) => [t.name, t.text, along(t.corners)]),
        ...site.hits.map((h) => ["Passive hit", h.text, at(h.at)]),
        ...(site.dig.length ? [["Dig area", "", along(site.dig)]] : []),
      ]}
    />
  );
}
