import type { ReactNode } from 'react';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { Loading } from '../../parts/Loading.tsx';
import { type MeasureChoice, ProcessBar } from './ProcessBar.tsx';

interface MeasurePageProps {
  readonly title: string;
  /** What it tells, in a line above the title. */
  readonly about: string;
  readonly choice: MeasureChoice;
  readonly asked: { readonly isLoading: boolean; readonly error?: unknown };
  /** Beside the title: the pages that it is one of. */
  readonly pages?: ReactNode;
  /** Behind the choices of process, team and owner. */
  readonly narrowed?: ReactNode;
  readonly children: ReactNode;
}

/** A page that measures a process: its head with what it is about and how it is narrowed, and what was asked once it is there. */
export function MeasurePage({ title, about, choice, asked, pages, narrowed, children }: MeasurePageProps) {
  return (
    <>
      <header className="page-head">
        <div>
          <div className="crumb">{about}</div>
          <h1>{title}</h1>
        </div>
        {pages}
        <div className="grow" />
        {choice.process && <ProcessBar choice={choice} />}
        {narrowed}
      </header>
      {(asked.isLoading || choice.isLoading) && <Loading />}
      <ErrorNotice error={asked.error} />
      {!choice.isLoading && !choice.process && (
        <div className="empty">
          <h2>No process is live yet</h2>
        </div>
      )}
      {children}
    </>
  );
}
