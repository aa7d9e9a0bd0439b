import { useState } from "react";
import type { Job, LineState } from "../../api/client";
import { Button } from "../../ui/Button";
import { fetched } from "../../ui/fetched";
import { Sheet } from "../../ui/Sheet";

const LineForm = fetched(() => import("../line/LineForm"));

/** A metal rod can be traced as a line: the line's form, with that already chosen. */
export function RodAsLine({ job, line }: { job: Job; line: LineState }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>A metal rod goes in: trace it as a line</Button>
      <Sheet title={line.name} open={open} onClose={() => setOpen(false)}>
        {open ? (
          <LineForm
            job={job}
            lineId={line.id}
            given={{ preset: "rodded_drain", far_kind: "open", bare_metal: true, in_service: false }}
            onDone={() => setOpen(false)}
          />
        ) : null}
      </Sheet>
    </>
  );
}
