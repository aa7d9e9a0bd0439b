import { Check, Crosshair, ImageUp, MapPin, TriangleAlert } from "lucide-react";
import { ToggleGroup } from "radix-ui";
import { useRef } from "react";
import { useFormState } from "react-hook-form";
import { asRefusal, type Job, type Schemas } from "../../api/client";
import { Button, buttonClass } from "../../ui/Button";
import { EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { Refused } from "../../ui/Refused";
import { atOf, type BackgroundState, NUMBERS, pxOf } from "./useBackground";

const STRENGTHS = [
  { id: "faint", label: "Faint" },
  { id: "half", label: "Half" },
  { id: "full", label: "Full" },
] as const;

interface Props {
  job: Job;
  site: Schemas["SiteView"];
  state: BackgroundState;
}

export function BackgroundPanel({ site, state }: Props) {
  const picture = site.background;
  return (
    <div className="grid content-start gap-3">
      {/* what to tap next comes first, also on a phone */}
      {picture ? <TwoPoints {...{ site, state }} /> : null}
      <section className="card lg:p-3" aria-label="Background">
        <h2>Background</h2>
        {picture ? (
          <>
            <p className="font-semibold break-words">{picture.name}</p>
            <p className="text-sm text-quiet">{picture.text || "Not placed yet."}</p>
            {picture.corners ? <Strength picture={picture} state={state} /> : null}
            <div className="mt-3 flex flex-wrap gap-2">
              <FileButton state={state} label="Another picture" />
              <Button onClick={state.onRemove}>Remove the picture</Button>
            </div>
          </>
        ) : (
          <>
            <p className="my-2">
              Put a scanned plan or a photo under the site plan and draw over it. Two points that you know in
              both give its scale.
            </p>
            <FileButton state={state} label="Choose a picture" main />
            <p className="mt-2 text-sm text-quiet">PNG or JPEG. Save a page of a PDF as a picture first.</p>
          </>
        )}
        {state.add.isPending ? <p role="status">Reading the picture</p> : null}
        {state.add.error ? <Refused text={asRefusal(state.add.error).text} /> : null}
      </section>
      <p className="flex gap-2 text-sm">
        <TriangleAlert aria-hidden className="mt-0.5 size-5 shrink-0 text-care" />A plan can be wrong and a
        photo is distorted. Vessel reads nothing from the picture. Never mark from it.
      </p>
    </div>
  );
}

function FileButton({ state, label, main }: { state: BackgroundState; label: string; main?: boolean }) {
  const file = useRef<HTMLInputElement>(null);
  return (
    <label className={`${buttonClass(main ? "main" : "plain")} cursor-pointer`}>
      <ImageUp aria-hidden className="size-5" /> {label}
      <input
        ref={file}
        type="file"
        accept="image/png,image/jpeg"
        className="sr-only"
        onChange={(e) => {
          const one = e.target.files?.[0];
          if (one) state.add.mutate(one);
          if (file.current) file.current.value = "";
        }}
      />
    </label>
  );
}

function Strength({ picture, state }: { picture: Schemas["BackgroundView"]; state: BackgroundState }) {
  return (
    <fieldset className="mt-2" disabled={state.fade.isPending}>
      <legend className="text-sm font-semibold">How strongly it shows</legend>
      <ToggleGroup.Root
        type="single"
        aria-label="How strongly it shows"
        value={picture.fade}
        onValueChange={(v) => v && state.fade.mutate(v as Schemas["BackgroundView"]["fade"])}
        className="mt-1 grid grid-cols-3 gap-1"
      >
        {STRENGTHS.map((s) => (
          <ToggleGroup.Item key={s.id} value={s.id} asChild>
            <Button look={s.id === picture.fade ? "main" : "plain"} className="px-2 text-sm">
              {s.label}
            </Button>
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </fieldset>
  );
}

function TwoPoints({ site, state }: { site: Schemas["SiteView"]; state: BackgroundState }) {
  const { form, target } = state;
  const { isDirty } = useFormState({ control: form.control });
  const placed = Boolean(site.background?.corners);
  const now = target ? NUMBERS.find((n) => target === pxOf(n) || target === atOf(n)) : undefined;
  return (
    <EntryForm form={form} send={state.send} className="card grid gap-2 lg:p-3" aria-label="Two points">
      <h2>Two points</h2>
      <p role="status" className="font-semibold">
        {now === undefined
          ? placed
            ? "Placed. Tap a point again to correct it."
            : state.next
              ? "Tap what is still missing."
              : "Both points are in. Place the picture."
          : target === pxOf(now)
            ? `Tap point ${now} in the picture${now === 2 ? ", far from point 1" : ""}.`
            : `Type where point ${now} is, or tap it on the plan.`}
      </p>
      {NUMBERS.map((n) => (
        <Point key={n} number={n} state={state} drawn={site.access.length > 0} />
      ))}
      <FormError form={form} />
      <Button type="submit" look={placed && !isDirty ? "plain" : "main"} disabled={placed && !isDirty}>
        {placed && !isDirty ? "Placed" : "Place the picture"}
      </Button>
    </EntryForm>
  );
}

function Point({ number, state, drawn }: { number: 1 | 2; state: BackgroundState; drawn: boolean }) {
  const { form, points, target, setTarget } = state;
  const { errors } = useFormState({ control: form.control });
  const [px, at] = [pxOf(number), atOf(number)] as const;
  const wrong = errors[px]?.message;
  return (
    <fieldset className="border-t border-edge pt-2">
      <legend className="sr-only">Point {number}</legend>
      <div className="mb-1 flex flex-wrap items-center gap-2">
        <span aria-hidden className="w-6 text-2xl font-bold">
          {number}
        </span>
        <Button
          name={px}
          aria-pressed={target === px}
          look={target === px ? "main" : "plain"}
          className="px-3 text-sm"
          onClick={() => setTarget(target === px ? null : px)}
        >
          {points[px] ? (
            <Check aria-hidden className="size-4" />
          ) : (
            <Crosshair aria-hidden className="size-4" />
          )}
          In the picture
        </Button>
        <Button
          aria-pressed={target === at}
          look={target === at ? "main" : "plain"}
          className="px-3 text-sm"
          onClick={() => setTarget(target === at ? null : at)}
        >
          <MapPin aria-hidden className="size-4" /> On the plan
        </Button>
      </div>
      {wrong ? <Refused text={wrong} /> : null}
      <TextEntry
        form={form}
        name={at}
        label={`Point ${number} is at`}
        hint={
          target !== at
            ? ""
            : drawn
              ? "An access point's name, or east and north: 12.5 E, 3 N"
              : number === 1
                ? "East and north. Nothing is drawn yet: call it 0 E, 0 N"
                : "East and north of point 1, such as 40 E, 12 S"
        }
      />
    </fieldset>
  );
}
