/** Tags of a row: small, each on a short line of its own colour of ink. */
export function TagWords({ tags }: { tags: readonly string[] }) {
  if (tags.length === 0) return null;
  return (
    <span className="flex flex-wrap gap-x-2 text-xs text-soft">
      <span className="sr-only">Tags:</span>
      {tags.map((tag) => (
        <span key={tag} className="written border-b border-dotted border-current">
          {tag}
        </span>
      ))}
    </span>
  );
}
