import { type ComparedVersion, catalogueOf, type NameOf } from '@ladder/core';
import { skipToken } from '@reduxjs/toolkit/query';
import { useMemo } from 'react';
import { useSession } from '../../../client/session.ts';
import { useGetDocumentKindsQuery } from '../../documents/documentsApi.ts';
import { useListTemplatesQuery } from '../../messages/messagesApi.ts';
import { useGetPeopleQuery } from '../../session/sessionApi.ts';
import { type ProcessDetail, useGetDraftQuery, useGetVersionQuery } from '../processesApi.ts';

type Version = ProcessDetail['versions'][number];

/** A version with what its words need; null until it is there. */
export function useComparedVersion(
  process: string,
  version: Version | undefined,
): { readonly version: ComparedVersion | null; readonly error: unknown } {
  const isDraft = version?.state === 'draft';
  const draft = useGetDraftQuery(isDraft ? process : skipToken, { refetchOnMountOrArgChange: true });
  const published = useGetVersionQuery(version && !isDraft ? { id: process, number: version.number } : skipToken);
  const { currentData: content, error } = isDraft ? draft : published;
  const nameOf = useOtherNames();
  return {
    version: useMemo(
      () => (content ? { document: content.document, catalogue: catalogueOf(content.fields), nameOf } : null),
      [content, nameOf],
    ),
    error,
  };
}

/** Names of what a document speaks of and does not have: people, kinds of documents, templates. */
export function useOtherNames(): NameOf {
  const { person } = useSession();
  const { data: kinds } = useGetDocumentKindsQuery();
  const { data: people } = useGetPeopleQuery();
  const { data: templates } = useListTemplatesQuery(undefined, { skip: person.role !== 'administrator' });
  return useMemo(() => {
    const named = [...(kinds?.items ?? []), ...(people?.items ?? []), ...(templates?.items ?? [])];
    const names = new Map(named.map(({ id, name }) => [id, name]));
    return (id) => names.get(id);
  }, [kinds, people, templates]);
}
