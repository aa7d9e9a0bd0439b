import { type MouseEvent, type ReactNode, useRef } from "react";
import type { Schemas } from "../api/client";
import type { Formatter } from "../api/units";
import { Background, farCorners } from "./siteplan/Background";
import { DraftHandles, type Drafting, LegLengths } from "./siteplan/DraftHandles";
import { AccessPoints, DraftCorners, DraftWay, DrawnLine, Ground, Hits, ring } from "./siteplan/Drawn";
import { FoundPoints, FoundStretches, SweepCircle } from "./siteplan/Found";
import { Controls, Grid } from "./siteplan/Frame";
import { type Name, Names } from "./siteplan/Names";
import {
  byKeys,
  type Corner,
  extentOf,
  type PlanView,
  useMoves,
  usePlanView,
  ViewContext,
} from "./siteplan/planView";
import { NextStrip, StripWays } from "./siteplan/Strips";
import { DraggedStake, Lead, Spot, WorkSteps, WorkStretches } from "./siteplan/Work";
import "./siteplan.css";

type Site = Schemas["SiteView"];

export interface SitePlanProps {
  site: Site;
  work?: Schemas["WorkView"] | null;
  chosen?: number | null;
  onChoose?: (number: number) => void;
  /** What is being drawn, not saved yet. */
  draft?: Corner[];
  closed?: boolean;
  onTap?: (at: Corner) => void;
  /** What is being drawn, where its corners can be moved and deleted. */
  drafting?: Drafting | null;
  format: Formatter;
  /** Spots for the stake, if they are shown, and what happens when the stake is dragged. */
  spots?: Schemas["SpotView"][];
  stake?: { at: Corner; from: Corner; onMove: (at: Corner) => void } | null;
  zoomTo?: Corner[];
  /** What was found so far; where a line is named, only the first sweep round its hookup. */
  found?: Schemas["FoundView"] | null;
  foundOf?: number;
  /** The grid of the passive sweep. */
  strips?: Schemas["StripView"][];
  /** What a page draws itself: on the ground, in SVG, and what keeps its size above all else. */
  ground?: ReactNode;
  above?: ReactNode;
}

const SNAP_PX = 14;

/** Metres, north up, no tiles: the site as it is drawn, with the order of work or what was found on it. */
export default function SitePlan(p: SitePlanProps) {
  const box = useRef<HTMLDivElement>(null);
  const moves = useMoves(box, extentOf(p.zoomTo ?? everything(p.site)));
  const { view } = moves;
  const onTap = p.drafting?.onTap ?? p.onTap;
  const onClick = (e: MouseEvent<HTMLDivElement>) => {
    if (!onTap || !view) return;
    const { left, top } = e.currentTarget.getBoundingClientRect();
    onTap(tapped(view, [e.clientX - left, e.clientY - top], placesIn(p.site)));
  };
  return (
    <div
      ref={box}
      role="group"
      aria-label="Site plan"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the arrow keys move the picture
      tabIndex={0}
      className={`plan-map relative isolate size-full touch-none overflow-hidden rounded-lg border border-edge bg-sheet ${onTap ? "cursor-crosshair" : "cursor-grab"}`}
      onKeyDown={byKeys(moves)}
      onClick={onClick}
    >
      {view ? (
        <ViewContext value={view}>
          <OnGround {...p} />
          <Pins {...p} />
          <Controls moves={moves} format={p.format} />
        </ViewContext>
      ) : null}
    </div>
  );
}

/** What lies on the ground, from the grid up. */
function OnGround(p: SitePlanProps) {
  return (
    <svg className="absolute inset-0 size-full" aria-hidden>
      <Background picture={p.site.background} />
      <Grid format={p.format} />
      <Ground site={p.site} />
      {p.strips ? <StripWays strips={p.strips} /> : null}
      {p.site.lines.map((l) => (
        <DrawnLine key={l.id} line={l} />
      ))}
      {p.found && p.foundOf === undefined ? <FoundStretches lines={p.found.lines} /> : null}
      {p.found && p.foundOf !== undefined ? <SweepCircle line={lineOf(p)} /> : null}
      {p.work ? <WorkStretches work={p.work} chosen={p.chosen ?? null} /> : null}
      {p.stake ? <Lead from={p.stake.from} to={p.stake.at} /> : null}
      {p.ground}
      {p.draft?.length ? <DraftWay corners={p.draft} closed={p.closed ?? false} /> : null}
      {p.drafting ? (
        <>
          <DraftWay corners={p.drafting.corners} closed={p.drafting.closed} />
          <LegLengths draft={p.drafting} format={p.format} />
        </>
      ) : null}
    </svg>
  );
}

/** What keeps its size at every zoom: names, access points, stations, steps, the stake. */
function Pins(p: SitePlanProps) {
  const points = p.found
    ? p.foundOf === undefined
      ? p.found.lines.flatMap((l) => l.points.filter((x) => x.kind !== "centre_line"))
      : (lineOf(p)?.points.filter((x) => x.kind === "centre_line") ?? [])
    : [];
  return (
    <>
      <AccessPoints access={p.site.access} />
      {p.strips ? <NextStrip strips={p.strips} /> : null}
      <Hits hits={p.site.hits} />
      <FoundPoints points={points} />
      <Names names={namesOf(p.site)} taken={takenBy(p)} />
      {p.work ? <WorkSteps work={p.work} chosen={p.chosen ?? null} onChoose={p.onChoose} /> : null}
      {p.spots?.map((s) => (
        <Spot key={s.at.join()} spot={s} onChoose={p.stake?.onMove} />
      ))}
      {p.stake ? <DraggedStake at={p.stake.at} onMove={p.stake.onMove} /> : null}
      {p.draft ? <DraftCorners corners={p.draft} /> : null}
      {p.above}
      {p.drafting ? <Handles site={p.site} format={p.format} draft={p.drafting} /> : null}
    </>
  );
}

function Handles({ draft, site, format }: Pick<SitePlanProps, "site" | "format"> & { draft: Drafting }) {
  const view = usePlanView();
  const places = placesIn(site);
  return (
    <DraftHandles
      draft={draft}
      format={format}
      snap={(at, k) => {
        const own = draft.corners[k];
        const others = places.filter((c) => !own || c[0] !== own[0] || c[1] !== own[1]);
        return tapped(view, view.toPicture(at), others);
      }}
    />
  );
}

/** What a corner is likely meant to be at: access points, and the corners of what is drawn. */
const placesIn = (site: Site): Corner[] => [
  ...site.access.map((a) => a.at),
  ...site.lines.flatMap((l) => l.corners),
  ...site.structures.flatMap((t) => t.corners),
];

const lineOf = (p: SitePlanProps) => p.found?.lines.find((l) => l.line_id === p.foundOf);

const namesOf = (site: Site): Name[] => [
  ...site.lines.map((l) => ({ key: `line-${l.id}`, letter: l.letter, name: l.name, corners: l.corners })),
  ...[...site.structures, ...site.hard].map((t) => ({
    key: `thing-${t.name}`,
    letter: "",
    name: t.name,
    corners: t.corners,
  })),
  ...site.access.flatMap((a) =>
    a.hums_m === null
      ? []
      : [
          {
            key: `hums-${a.name}`,
            letter: "",
            name: `${a.name} hums`,
            corners: ring(a.at, a.hums_m).slice(33, 40),
          },
        ],
  ),
];

const takenBy = (p: SitePlanProps): Corner[] => [
  ...(p.work?.visits.flatMap((v) => (v.at ? [v.at] : [])) ?? []),
  ...p.site.access.map((a) => a.at),
  ...p.site.hits.map((h) => h.at),
  ...(p.found?.lines.flatMap((l) => l.points.map((x) => x.at)) ?? []),
];

/** What the picture shows at first: the dig area and how to reach it, or all that is drawn. */
function everything(site: Site): Corner[] {
  const access = site.access.map((a) => a.at);
  if (site.dig.length) return [...site.dig, ...access, ...site.lines.flatMap((l) => l.corners.slice(0, 1))];
  const near = [...site.lines.flatMap((l) => l.corners), ...access];
  if (near.length) return near;
  const things = [...site.structures, ...site.hard].flatMap((t) => t.corners);
  return things.length ? things : farCorners(site.background);
}

/** The place of a tap; close to one of `places` it lands on it. */
function tapped(view: PlanView, at: [number, number], places: Corner[]): Corner {
  const near = places
    .map((c) => ({ at: c, off: distance(view.toPicture(c), at) }))
    .sort((x, y) => x.off - y.off)[0];
  if (near && near.off < SNAP_PX) return near.at;
  const [east, north] = view.toGround(at);
  return [Number(east.toFixed(2)), Number(north.toFixed(2))];
}

const distance = (a: [number, number], b: [number, number]) => Math.hypot(a[0] - b[0], a[1] - b[1]);
