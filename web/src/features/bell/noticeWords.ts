import type { NoticeKind } from '@ladder/core';
import { EVENT_TAGS } from '../deals/eventLooks.ts';
import type { Notice } from './bellApi.ts';

/** What each kind of notice is, where it is chosen. */
export const NOTICE_NAMES: Readonly<Record<NoticeKind, string>> = {
  mentioned: 'Somebody mentions me',
  assigned: 'A deal, step or task falls to me',
  waiver_asked: 'A waiver is asked for that I may decide',
  waiver_decided: 'A waiver is decided that I asked for',
  watched: 'A deal that I watch changes',
  published: 'A process that I have deals of is published',
};

/** What a notice says, after who did it. */
export function noticeText({ kind, event, times, published }: Notice): string {
  switch (kind) {
    case 'mentioned':
      return 'mentioned you';
    case 'assigned':
      return event === 'reassigned'
        ? 'gave you the deal'
        : event === 'step_passed'
          ? 'gave you a step'
          : 'gave you a task';
    case 'waiver_asked':
      return 'asks for a waiver';
    case 'waiver_decided':
      return 'decided on the waiver';
    case 'watched':
      return `wrote: ${EVENT_TAGS[event ?? '']?.toLowerCase() ?? 'a change'}${times > 1 ? `, the last of ${times}` : ''}`;
    case 'published':
      return `published version ${published?.number ?? ''}`;
  }
}
