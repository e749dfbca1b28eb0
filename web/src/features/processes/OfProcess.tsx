import type { ReactNode } from 'react';
import { useParams } from 'react-router';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { Loading } from '../../parts/Loading.tsx';
import { type ProcessDetail, useGetProcessQuery } from './processesApi.ts';

/** What a page says of the process that its address names, once that is there. */
export function OfProcess({ children }: { children: (process: ProcessDetail) => ReactNode }) {
  const { process: id = '' } = useParams();
  const { currentData: process, error } = useGetProcessQuery(id);
  if (process) return children(process);
  if (!error) return <Loading />;
  return (
    <div className="page-body">
      <ErrorNotice error={error} />
    </div>
  );
}
