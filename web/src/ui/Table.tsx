import type { ReactNode } from "react";

/** A column: its heading, what stands in it, and whether it is words; numbers stand at the right. */
export type Column<Row> = readonly [head: ReactNode, cell: (row: Row, index: number) => ReactNode, words?: "words"];

interface Props<Row> {
  columns: readonly Column<Row>[];
  rows: readonly Row[];
  testId?: string;
  caption?: ReactNode;
  className?: string;
}

/** Rows of figures; the first column names the row. */
export function Table<Row>({ columns, rows, testId, caption, className = "w-full" }: Props<Row>) {
  const look = (at: number, words: "words" | undefined) =>
    at === 0 || words ? "pr-3 text-left font-normal" : "pl-3 text-right whitespace-nowrap font-normal";
  return (
    <table className={className} data-testid={testId}>
      {caption ? <caption className="pb-1 text-left text-sm text-base-content/75">{caption}</caption> : null}
      <thead className="text-sm text-base-content/75">
        <tr>
          {columns.map(([head, , words], at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: columns keep their places
            <th key={at} scope="col" className={look(at, words)}>
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two rows can have one name
          <tr key={index} className="border-t border-base-300 align-top">
            {columns.map(([, cell, words], at) => {
              const Cell = at === 0 ? "th" : "td";
              return (
                // biome-ignore lint/suspicious/noArrayIndexKey: columns keep their places
                <Cell key={at} scope={at === 0 ? "row" : undefined} className={`py-1 ${look(at, words)}`}>
                  {cell(row, index)}
                </Cell>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
