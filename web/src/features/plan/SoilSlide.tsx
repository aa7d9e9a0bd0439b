import { Slider } from "radix-ui";

const WET = 10;
const DRY = 3000;
const STEPS = 60;

const at = (ohmM: number) => Math.round((STEPS * Math.log(ohmM / WET)) / Math.log(DRY / WET));

/** Soil from wet to dry under the thumb: even steps of the logarithm, as ground differs by factors. */
export function SoilSlide(p: { value: string; assumed: number; onChange: (text: string) => void }) {
  const typed = Number.parseFloat(p.value);
  const known = Number.isFinite(typed) && typed > 0;
  const step = known ? at(typed) : at(p.assumed);
  return (
    <div className="mb-3 flex items-center gap-3 text-sm text-quiet">
      <span>wet</span>
      <Slider.Root
        className="relative flex h-11 grow touch-none items-center"
        min={0}
        max={STEPS}
        value={[Math.min(Math.max(step, 0), STEPS)]}
        onValueChange={([to = 0]) => p.onChange(String(Math.round(WET * (DRY / WET) ** (to / STEPS))))}
      >
        <Slider.Track className="relative h-2 grow rounded-full bg-edge" />
        <Slider.Thumb
          aria-label="Soil from wet to dry"
          className="block size-11 rounded-full border-2 border-ink bg-sheet"
        />
      </Slider.Root>
      <span>dry</span>
    </div>
  );
}
