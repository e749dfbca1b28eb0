import { problemOf } from '../client/api.ts';

/** A failed request in words, with what is wrong at which place. */
export function ErrorNotice({ error }: { error: unknown }) {
  const problem = problemOf(error);
  if (!problem) return null;
  return (
    <div className="notice bad" role="alert">
      <b>{problem.title}.</b> {problem.detail}
    </div>
  );
}
