import { Fragment } from "react";
import { Marker, Polygon, Polyline } from "react-leaflet";
import type { Schemas } from "../../api/client";
import { DASHES } from "../shared";
import { all, at, badge, type Corner, escapeText } from "./places";

export function DrawnLine({ line }: { line: Schemas["DrawnLineView"] }) {
  const positions = all(line.corners);
  return (
    <>
      <Polyline
        positions={positions}
        pathOptions={{ color: "#1f2a30", weight: 7, opacity: 0.85, interactive: false }}
      />
      <Polyline
        positions={positions}
        pathOptions={{
          color: line.hex,
          weight: 4,
          dashArray: DASHES[line.pattern] ?? "",
          interactive: false,
        }}
      />
    </>
  );
}

export function Things({ site }: { site: Schemas["SiteView"] }) {
  return (
    <>
      {site.hard.map((t) => (
        <Polygon
          key={t.name}
          positions={all(t.corners)}
          pathOptions={{
            color: "var(--quiet)",
            weight: 1,
            fillColor: "var(--quiet)",
            fillOpacity: 0.22,
            interactive: false,
          }}
        />
      ))}
      {site.dig.length ? (
        <Polygon
          positions={all(site.dig)}
          pathOptions={{
            color: "var(--ink)",
            weight: 2,
            dashArray: "8 6",
            fillColor: "var(--amber)",
            fillOpacity: 0.14,
            interactive: false,
          }}
        />
      ) : null}
      {site.structures.map((t) => (
        <Fragment key={t.name}>
          <Polyline
            positions={all(t.corners)}
            pathOptions={{
              color: "var(--quiet)",
              weight: 9,
              dashArray: "2 5",
              lineCap: "butt",
              interactive: false,
            }}
          />
        </Fragment>
      ))}
      {site.access.map((a) => (
        <Marker
          key={a.name}
          position={at(a.at)}
          title={`${a.name}: ${a.text}`}
          alt={a.name}
          keyboard={false}
          icon={badge(
            `<svg width="22" height="22"><title>${escapeText(a.name)}</title><rect x="3" y="3" width="16" height="16" fill="${a.live ? "var(--hold-bg)" : "var(--sheet)"}" stroke="${a.live ? "var(--hold)" : "var(--ink)"}" stroke-width="3"/>${a.live ? '<path d="M12 4L7 12h4l-1 6 5-8h-4z" fill="var(--hold)"/>' : ""}</svg>`,
            "",
            [22, 22],
          )}
        />
      ))}
    </>
  );
}

/** What the passive sweep met: something is here, whether or not anything drawn explains it. */
export function Hits({ hits }: { hits: Schemas["PlacedHitView"][] }) {
  return (
    <>
      {hits.map((h) => (
        <Marker
          key={`${h.at.join()}-${h.text}`}
          position={at(h.at)}
          title={h.text}
          alt="Something here"
          keyboard={false}
          icon={badge(
            `<svg width="24" height="24"><title>${escapeText(h.text)}</title><circle cx="12" cy="12" r="9" fill="${h.explained ? "var(--sheet)" : "var(--care-bg)"}" stroke="var(--ink)" stroke-width="2" stroke-dasharray="${h.explained ? "3 2" : "none"}"/><text x="12" y="17" text-anchor="middle" font-size="14" font-weight="700" fill="var(--ink)">?</text></svg>`,
            "",
            [24, 24],
          )}
        />
      ))}
    </>
  );
}

export function Draft({ corners, closed }: { corners: Corner[]; closed: boolean }) {
  const options: L.PathOptions = { color: "var(--hold)", weight: 4, dashArray: "6 5", interactive: false };
  return (
    <>
      {closed && corners.length > 2 ? (
        <Polygon positions={all(corners)} pathOptions={options} />
      ) : (
        <Polyline positions={all(corners)} pathOptions={options} />
      )}
      {corners.map((c) => (
        <Marker
          key={c.join()}
          position={at(c)}
          interactive={false}
          keyboard={false}
          icon={badge(
            '<svg width="14" height="14"><title>Corner</title><circle cx="7" cy="7" r="5" fill="var(--sheet)" stroke="var(--hold)" stroke-width="3"/></svg>',
            "",
            [14, 14],
          )}
        />
      ))}
    </>
  );
}
