interface Props {
  caption: string;
  heads: string[];
  /** The first cell names the row. */
  rows: string[][];
}

/** The numbers of a picture as a table, for those who do not see it. */
export function DataTable({ caption, heads, rows }: Props) {
  return (
    <div className="sr-only">
      <table>
        <caption>{caption}</caption>
        <thead>
          <tr>
            {heads.map((head) => (
              <th key={head} scope="col">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([name = "", ...cells], row) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two layers can have one name
            <tr key={row}>
              <th scope="row">{name}</th>
              {cells.map((cell, at) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: cells keep their columns
                <td key={at}>{cell}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
