/** The head of a table that is read, not edited. */
export function HeadRow({ heads, sticks = false }: { readonly heads: readonly string[]; readonly sticks?: boolean }) {
  return (
    <thead className={`bg-base-200 text-left text-xs text-mute ${sticks ? 'sticky top-0' : ''}`}>
      <tr>
        {heads.map((head) => (
          <th key={head} scope="col" className="px-2.5 py-1.5 font-semibold whitespace-nowrap">
            {head}
          </th>
        ))}
      </tr>
    </thead>
  );
}
