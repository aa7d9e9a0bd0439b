import { Download } from "lucide-react";
import { BASE } from "../../api/base";
import { useCrew } from "../../api/queries";
import { when } from "../../api/units";
import { buttonClass } from "../../ui/Button";
import { Wait } from "../../ui/Wait";

/** What each of the crew did in the yard, for whoever trains them. */
export function CrewCard() {
  return (
    <Wait query={useCrew()} doing="Reading the crew's results">
      {(t) =>
        t.rows.length === 0 ? (
          <p>No exercise has ended yet.</p>
        ) : (
          <>
            <div className="overflow-x-auto">
              <table className="w-full text-left">
                <thead>
                  <tr>
                    {["Technician", "Lessons passed", "Exercises", "Mean score", "Strikes", "Last"].map(
                      (h) => (
                        <th key={h} scope="col" className="py-2 pr-4">
                          {h}
                        </th>
                      ),
                    )}
                  </tr>
                </thead>
                <tbody>
                  {t.rows.map((r) => (
                    <tr key={r.technician} className="border-t border-edge">
                      <th scope="row" className="py-2 pr-4 font-semibold">
                        {r.technician}
                      </th>
                      <td className="pr-4">
                        {r.lessons_passed} of {t.lessons}
                      </td>
                      <td className="pr-4">{r.exercises}</td>
                      <td className="pr-4">{r.mean_score ?? ""}</td>
                      <td className={`pr-4 ${r.strikes ? "font-bold text-hold" : ""}`}>{r.strikes}</td>
                      <td>{when(r.last_at)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
            <a className={`${buttonClass()} mt-3`} href={`${BASE}/api/practice/crew.csv`} download>
              <Download aria-hidden className="size-5" /> Export the table
            </a>
          </>
        )
      }
    </Wait>
  );
}
