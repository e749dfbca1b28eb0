import './bell.css';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf, dayOf, shortDay } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { BellChoicesDialog } from './BellChoicesDialog.tsx';
import { type Notice, useListNoticesInfiniteQuery, useReadNoticesMutation } from './bellApi.ts';
import { noticeText } from './noticeWords.ts';

/** What others did that concerns whoever is signed in, the latest first. */
export function BellPage() {
  const list = useListNoticesInfiniteQuery(undefined, { refetchOnMountOrArgChange: true });
  const [readAll, { error }] = useReadNoticesMutation();
  const [isChoosing, setChoosing] = useState(false);
  const notices = list.data?.pages.flatMap(({ items }) => items);
  const unread = notices?.some(({ read }) => !read) ?? false;
  return (
    <>
      <header className="page-head">
        <div>
          <div className="crumb">What concerns you</div>
          <h1>Bell</h1>
        </div>
        <div className="grow" />
        <Button variant="outline-secondary" onClick={() => setChoosing(true)}>
          Sent as a message…
        </Button>
        <Button disabled={!unread} onClick={() => readAll({})}>
          All read
        </Button>
      </header>
      <div className="page-body bell">
        <ErrorNotice error={error ?? list.error} />
        {list.isLoading && <Loading />}
        {notices?.length === 0 && (
          <div className="empty">
            <h2>Nothing was told to you yet</h2>
            <p>
              You hear of it here when somebody mentions you, gives you something to do, decides on what you asked for,
              or changes a deal that you watch.
            </p>
          </div>
        )}
        {notices && notices.length > 0 && (
          <ul>
            {notices.map((notice) => (
              <NoticeRow key={notice.id} notice={notice} />
            ))}
          </ul>
        )}
        <ShowMore list={list} />
      </div>
      {isChoosing && <BellChoicesDialog onClose={() => setChoosing(false)} />}
    </>
  );
}

function NoticeRow({ notice }: { readonly notice: Notice }) {
  const { organisation } = useSession();
  const [readNotices] = useReadNoticesMutation();
  const read = () => {
    if (!notice.read) void readNotices({ notices: [notice.id] });
  };
  const { deal, published, by, at } = notice;
  return (
    <li className={notice.read ? 'read' : 'unread'}>
      <div>
        <b>{by ?? 'The process'}</b> {noticeText(notice)}
        {deal && (
          <>
            {' '}
            in{' '}
            <Link to={`/deals/${deal.id}`} onClick={read}>
              {deal.name}
            </Link>
          </>
        )}
        {published && <Published published={published} onOpen={read} />}
        {!notice.read && <span className="visually-hidden"> unread</span>}
      </div>
      <time dateTime={at}>{shortDay(dayOf(at, organisation), organisation.today)}</time>
      {notice.read ? (
        <span />
      ) : (
        <Button
          variant="link"
          size="sm"
          aria-label={`Read: ${deal?.name ?? published?.process.name ?? ''}`}
          onClick={read}
        >
          Read
        </Button>
      )}
    </li>
  );
}

interface PublishedProps {
  readonly published: NonNullable<Notice['published']>;
  readonly onOpen: () => void;
}

function Published({ published: { process, note, deals }, onOpen }: PublishedProps) {
  const { person } = useSession();
  return (
    <>
      {' '}
      of{' '}
      <Link to={`/processes/${process.id}`} onClick={onOpen}>
        {process.name}
      </Link>
      {deals > 0 && (
        <>
          , which{' '}
          <Link to={`/deals?process=${process.id}&view=table&owner=${person.id}`} onClick={onOpen}>
            {countOf(deals, 'deal')} of yours
          </Link>{' '}
          {deals === 1 ? 'follows' : 'follow'}
        </>
      )}
      {note && <q>{note}</q>}
    </>
  );
}
