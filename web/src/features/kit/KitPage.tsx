import { Plus } from "lucide-react";
import { useState } from "react";
import { api, asRefusal, type Refusal, type Schemas, take } from "../../api/client";
import { useCatalogue, useChange, useKits } from "../../api/queries";
import { hertz } from "../../api/units";
import { Button } from "../../ui/Button";
import { Sheet } from "../../ui/Sheet";
import { useToast } from "../../ui/Toasts";
import { useTitle } from "../../ui/useTitle";
import { Wait } from "../../ui/Wait";
import { AskWhy } from "../history/StrikeOut";
import { KitForm } from "./KitForm";

type Kit = Schemas["KitView"];

export default function KitPage() {
  useTitle("Kit");
  const kits = useKits();
  const sizes = useCatalogue().data?.kits ?? [];
  const [open, setOpen] = useState<{ kit: Kit["kit"]; id: number | null; from?: string } | null>(null);
  return (
    <div className="mx-auto w-full max-w-5xl p-4 sm:p-8">
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <h1 className="mr-auto">Kit</h1>
        {sizes.map((kit) => (
          <Button
            key={kit.name}
            onClick={() => setOpen({ kit: { ...kit, name: "" }, id: null, from: kit.name })}
          >
            <Plus aria-hidden className="size-5" /> New {kit.name.toLowerCase()}
          </Button>
        ))}
      </div>
      <p className="mb-4">
        Your transmitters and receivers. Begin from the size nearest to yours and enter what is printed on the
        devices.
      </p>
      <Wait query={kits} doing="Reading the kits">
        {(list) => (
          <ul className="grid gap-3">
            {list.map((k) => (
              <KitItem
                key={k.id}
                kit={k}
                onEdit={() => setOpen({ kit: k.kit, id: k.id })}
                onCopy={() => setOpen({ kit: { ...k.kit, name: `${k.kit.name}, own copy` }, id: null })}
              />
            ))}
          </ul>
        )}
      </Wait>
      <Sheet
        title={open?.id === null ? "New kit" : "Edit kit"}
        note="What the transmitter puts out and the receiver reads."
        open={open !== null}
        onClose={() => setOpen(null)}
      >
        {open ? (
          <KitForm kit={open.kit} kitId={open.id} from={open.from} onDone={() => setOpen(null)} />
        ) : null}
      </Sheet>
    </div>
  );
}

function KitItem({ kit: k, onEdit, onCopy }: { kit: Kit; onEdit: () => void; onCopy: () => void }) {
  const toast = useToast();
  const [refused, setRefused] = useState<Refusal | null>(null);
  const path = { params: { path: { kit_id: k.id } } };
  const restore = useChange("kit", () => take(api.POST("/api/kits/{kit_id}/restore", path)));
  const remove = useChange("kit", (why: string) =>
    take(api.DELETE("/api/kits/{kit_id}", { params: { ...path.params, query: { why } } })),
  );
  const [asking, setAsking] = useState(false);
  const d = k.kit;
  return (
    <li className="card">
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="mr-auto">{d.name}</h2>
        <span className="text-sm text-quiet">
          {k.in_use ? `used by ${k.in_use} ${k.in_use === 1 ? "job" : "jobs"}` : "not in use"}
        </span>
        <Button onClick={onEdit}>Edit</Button>
        <Button onClick={onCopy}>
          <Plus aria-hidden className="size-5" /> Copy
        </Button>
        {k.in_use ? null : (
          <Button look="quiet" onClick={() => setAsking(true)}>
            Remove
          </Button>
        )}
      </div>
      {asking ? (
        <AskWhy
          what={`the kit ${d.name}`}
          verb="Remove"
          says="Why? It can be restored."
          reasons={["No longer used", "Entered twice", "Lost or broken"]}
          busy={remove.isPending}
          onGive={(why) =>
            remove.mutateAsync(why).then(
              () => toast(`Removed “${d.name}”.`, () => restore.mutate(undefined)),
              (e) => setRefused(asRefusal(e)),
            )
          }
          onKeep={() => setAsking(false)}
        />
      ) : null}
      {refused ? <p className="text-hold">{refused.text}</p> : null}
      <p className="mt-1">
        Up to {d.volts_max} V, steps {d.outputs_a.map((a) => Number((a * 1e3).toPrecision(4))).join(", ")} mA,
        stake lead {d.lead_m} m, battery {d.battery_wh} Wh, {d.clamp ? "clamp" : "no clamp"},{" "}
        {d.coil ? "induction coil" : "no coil"}.
      </p>
      <div className="mt-2 overflow-x-auto">
        <table className="w-full text-left">
          <thead>
            <tr className="border-b-2 border-edge text-sm">
              <th className="py-1 pr-3">Frequency</th>
              <th className="py-1 pr-3">Power, W</th>
              <th className="py-1 pr-3">Reads depth</th>
              <th className="py-1">Reads direction</th>
            </tr>
          </thead>
          <tbody>
            {d.frequencies.map((f) => (
              <tr key={f.freq_hz} className="border-b border-edge">
                <td className="py-1 pr-3 font-bold">{hertz(f.freq_hz)}</td>
                <td className="pr-3">{f.watts}</td>
                <td className="pr-3">{f.reads_depth ? "yes" : "no"}</td>
                <td>{f.reads_direction ? "yes" : "no"}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </li>
  );
}
