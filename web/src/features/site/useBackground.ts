import { useState } from "react";
import { useWatch } from "react-hook-form";
import { api, asRefusal, type Job, Refusal, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { placeText } from "../../api/units";
import type { Point } from "../../pictures/siteplan/planView";
import { useToast } from "../../ui/Toasts";
import { useEntryForm } from "../../ui/useEntryForm";
import type { Corner } from "./drawing";

type Picture = Schemas["BackgroundView"];

/** The two points that place a picture: where they are in it, and where on the site, as typed. */
export interface Points {
  firstPx: Point | null;
  firstAt: string;
  secondPx: Point | null;
  secondAt: string;
}

/** What is tapped next: a point in the picture, or its place on the plan. */
export type Tapped = keyof Points;
export const NUMBERS = [1, 2] as const;
export const pxOf = (number: 1 | 2) => (number === 1 ? "firstPx" : "secondPx");
export const atOf = (number: 1 | 2) => (number === 1 ? "firstAt" : "secondAt");

/** Fields by the names the server has for them. */
const SENT: Record<string, Tapped> = {
  first: "firstPx",
  "first.at": "firstAt",
  second: "secondPx",
  "second.at": "secondAt",
};
const MOST_BYTES = 15_000_000;
const EMPTY: Points = { firstPx: null, firstAt: "", secondPx: null, secondAt: "" };

function pointsOf(picture: Picture | null): Points {
  const [first, second] = picture?.pins ?? [];
  if (!first || !second) return EMPTY;
  return {
    firstPx: [first.x, first.y],
    firstAt: first.at,
    secondPx: [second.x, second.y],
    secondAt: second.at,
  };
}

/** The first thing that is still missing, in the order in which it is asked for. */
function missing(p: Points): Tapped | null {
  const order: Tapped[] = ["firstPx", "secondPx", "firstAt", "secondAt"];
  return order.find((k) => !p[k]) ?? null;
}

/** A picture under the plan of a job: chosen, placed by two points, drawn fainter or stronger, removed. */
export function useBackground(job: Job, picture: Picture | null) {
  const toast = useToast();
  const form = useEntryForm<Points>({
    start: pointsOf(picture),
    draft: `background-${job.id}-${picture?.id ?? "none"}`,
  });
  const points = useWatch({ control: form.control }) as Points;
  const [target, setTarget] = useState<Tapped | null>(picture && !picture.corners ? missing(points) : null);

  const add = useChange("background", async (file: File) => {
    if (file.size > MOST_BYTES)
      throw new Refusal(
        "image",
        `This file has ${(file.size / 1e6).toFixed(0)} MB; Vessel takes ${MOST_BYTES / 1e6} MB.`,
        "Scan it at 200 dots an inch, or save it as JPEG.",
        "too_large",
      );
    return take(
      api.POST("/api/jobs/{job_id}/backgrounds", {
        params: { path: { job_id: job.id } },
        body: { name: file.name.slice(0, 200), image: await base64(file), technician: "" },
      }),
    );
  });
  const place = useChange("background", (p: Points) =>
    take(
      api.PUT("/api/backgrounds/{background_id}", {
        params: { path: { background_id: picture?.id ?? 0 } },
        body: {
          first: pin(1, p.firstPx, p.firstAt),
          second: pin(2, p.secondPx, p.secondAt),
          fade: picture?.fade ?? "half",
        },
      }),
    ),
  );
  const fade = useChange("background", (strength: Picture["fade"]) =>
    take(
      api.PUT("/api/backgrounds/{background_id}/fade", {
        params: { path: { background_id: picture?.id ?? 0 } },
        body: { fade: strength },
      }),
    ),
  );
  const remove = useChange("background", (id: number) =>
    take(
      api.DELETE("/api/backgrounds/{background_id}", {
        params: { path: { background_id: id }, query: { why: "Removed from the plan" } },
      }),
    ),
  );
  const back = useChange("background", (id: number) =>
    take(api.POST("/api/backgrounds/{background_id}/restore", { params: { path: { background_id: id } } })),
  );

  const tapped = (what: Tapped, value: Point | string) => {
    form.put({ [what]: value } as Partial<Points>);
    form.clearErrors();
    setTarget(missing({ ...points, [what]: value } as Points));
  };
  return {
    form,
    points,
    target,
    setTarget,
    next: missing(points),
    add,
    fade,
    onPicture: (at: Point) => target && tapped(target, at),
    onPlan: (at: Corner) => target && tapped(target, placeText(at, job.units)),
    send: async (p: Points) => {
      const now = await place.mutateAsync(p).catch((e) => {
        const { field, message, fix, code } = asRefusal(e);
        throw new Refusal(SENT[field] ?? field, message, fix, code);
      });
      form.begin(pointsOf(now as Picture | null));
      setTarget(null);
      toast("The picture lies under the plan.");
    },
    onRemove: () => {
      if (!picture) return;
      const { id } = picture;
      void remove
        .mutateAsync(id)
        .then(() => toast("The picture is off the plan.", () => void back.mutateAsync(id)))
        .catch(form.refuse);
    },
  };
}

export type BackgroundState = ReturnType<typeof useBackground>;

function pin(number: 1 | 2, px: Point | null, at: string): Schemas["PinForm"] {
  if (!px)
    throw new Refusal(
      pxOf(number),
      `Point ${number} is not tapped in the picture yet.`,
      "Tap “In the picture” beside it.",
      "bad_input",
    );
  return { x: px[0], y: px[1], at };
}

const base64 = (file: File) =>
  new Promise<string>((done, failed) => {
    const reader = new FileReader();
    reader.onload = () => done(String(reader.result).replace(/^[^,]*,/, ""));
    reader.onerror = () =>
      failed(new Refusal("image", "The file cannot be read.", "Choose it again.", "bad_input"));
    reader.readAsDataURL(file);
  });
