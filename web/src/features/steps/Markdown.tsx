import { lazy, Suspense } from 'react';
import { COMPONENTS } from './markdownComponents.tsx';

const Rendered = lazy(() => import('react-markdown'));

/** Text in Markdown (CommonMark), without the HTML that may stand in it. */
export function Markdown({ children }: { children: string }) {
  if (children.trim() === '') return null;
  return (
    <div className="markdown">
      <Suspense fallback={<p>{children}</p>}>
        <Rendered skipHtml components={COMPONENTS}>
          {children}
        </Rendered>
      </Suspense>
    </div>
  );
}
