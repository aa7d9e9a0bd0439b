/** What a picture shows, as rows of text: for who cannot see it, or wants the figures. */
export function AsTable(p: { head: string[]; rows: string[][] }) {
  return (
    <details className="text-sm">
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">As a table</summary>
      <div className="overflow-x-auto">
        <table className="w-full text-left">
          <thead>
            <tr>
              {p.head.map((h) => (
                <th key={h} scope="col" className="pr-3 align-bottom font-semibold">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {p.rows.map((row) => (
              <tr key={row.join("|")} className="border-t border-edge">
                {row.map((cell, k) => (
                  <td key={p.head[k]} className="py-0.5 pr-3 align-top tabular-nums">
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
