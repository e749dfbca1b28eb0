import type { checkDocument } from '@ladder/core';

/** What is wrong with the part of the document that a dialog edits; nothing where nothing is. */
export function PartProblems({ problems }: { problems: ReturnType<typeof checkDocument> }) {
  if (problems.length === 0) return null;
  return (
    <div className="notice bad mt-2" role="alert">
      {problems.map(({ pointer, detail }) => (
        <div key={pointer}>{detail}</div>
      ))}
    </div>
  );
}
