import { Tabs } from "radix-ui";
import type { ReactNode } from "react";

export interface View {
  id: string;
  label: string;
  /** Said after the label and shown beside it: a count, or how something stands. */
  note?: string;
  tone?: string;
  show: ReactNode;
}

/** Several views of one thing, one shown at a time; what is not shown is not worked out. */
export function Views(p: {
  label: string;
  views: (View | null)[];
  /** The one shown first; without it the first of them. */
  first?: string;
  value?: string;
  onChange?: (id: string) => void;
}) {
  const views = p.views.filter((v) => v !== null);
  const [only, second] = views;
  if (only && !second)
    return (
      <div>
        <h2 className="mb-2">{only.label}</h2>
        {only.show}
      </div>
    );
  return (
    <Tabs.Root
      defaultValue={p.first ?? views[0]?.id}
      {...(p.value === undefined ? {} : { value: p.value })}
      onValueChange={p.onChange}
      className="flex flex-col lg:min-h-64 lg:grow"
    >
      <Tabs.List aria-label={p.label} className="flex flex-wrap gap-x-1 border-b-2 border-edge">
        {views.map((v) => (
          <Tabs.Trigger
            key={v.id}
            value={v.id}
            className="-mb-0.5 min-h-11 border-b-4 border-transparent px-3 font-semibold text-quiet data-[state=active]:border-deep data-[state=active]:text-ink"
          >
            {v.label}
            {v.note ? <span className={`ml-1.5 font-normal ${v.tone ?? ""}`}>{v.note}</span> : null}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {views.map((v) => (
        <Tabs.Content key={v.id} value={v.id} className="min-h-0 pt-3 lg:grow" tabIndex={-1}>
          {v.show}
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}
