/** The heads of a table that is read, not typed into. */
export const TableHeads = ({ of }: { readonly of: readonly string[] }) => (
  <thead>
    <tr className="border-b border-rule bg-base-200">
      {of.map((title) => (
        <th key={title} scope="col" className="px-2.5 py-1.5 text-left text-xs font-semibold text-faint">
          {title}
        </th>
      ))}
    </tr>
  </thead>
);
