import { UserRound } from "lucide-react";
import { useState } from "react";
import { useJob } from "../../api/queries";
import { useWho, workingHere } from "../../api/who";
import { Button } from "../../ui/Button";
import { Sheet } from "../../ui/Sheet";

/** Asks once on a device who works on it; until then entries are signed by who is in charge of the job. */
export function WhoWorks({ jobId }: { jobId: number | undefined }) {
  const named = useWho();
  const [later, setLater] = useState(false);
  if (named || later || !jobId) return null;
  return <Asked jobId={jobId} onLater={() => setLater(true)} />;
}

function Asked(p: { jobId: number; onLater: () => void }) {
  const job = useJob(p.jobId);
  if (!job.data) return null;
  const inCharge = job.data.technician;
  return (
    <section
      aria-label="Who is working here?"
      className="no-print flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-edge bg-card px-3 py-1.5 sm:px-6"
    >
      <p className="text-sm">
        <strong>Who is working here?</strong> What you enter is signed by name.
      </p>
      <NameForm start="" submit="That is me">
        <Button onClick={() => workingHere(inCharge)}>{inCharge}</Button>
      </NameForm>
      <Button look="quiet" onClick={p.onLater}>
        Not now
      </Button>
    </section>
  );
}

function NameForm(p: { start: string; submit: string; onDone?: () => void; children?: React.ReactNode }) {
  const [name, setName] = useState(p.start);
  return (
    <form
      className={p.children ? "contents" : "flex flex-wrap items-center gap-2"}
      onSubmit={(e) => {
        e.preventDefault();
        if (!name.trim()) return;
        workingHere(name);
        p.onDone?.();
      }}
    >
      {p.children}
      <input
        aria-label="Another name"
        className="min-h-11 w-40 rounded-lg border border-edge bg-paper px-3"
        placeholder="Another name"
        maxLength={100}
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      <Button type="submit" disabled={!name.trim()}>
        {p.submit}
      </Button>
    </form>
  );
}

/** Who works on this device, and the way to change it. */
export function WhoButton({ className = "" }: { className?: string }) {
  const named = useWho();
  const [open, setOpen] = useState(false);
  if (!named) return null;
  return (
    <>
      <button
        type="button"
        className={`min-h-11 items-center gap-2 ${className}`}
        onClick={() => setOpen(true)}
        aria-label={`Working here: ${named}. Change`}
      >
        <UserRound aria-hidden className="size-5" /> <span className="max-w-32 truncate">{named}</span>
      </button>
      <Sheet
        title="Who is working here?"
        note="What is entered on this device from now on is signed by this name."
        open={open}
        onClose={() => setOpen(false)}
      >
        <NameForm key={named} start={named} submit="Save" onDone={() => setOpen(false)} />
      </Sheet>
    </>
  );
}
