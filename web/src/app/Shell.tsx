import { type ReactNode, Suspense, useState } from 'react';
import { ArrowDownUp, Bell, ClipboardCheck, Files, Kanban, ListOl, Sliders, Sun } from 'react-bootstrap-icons';
import { Navigate, NavLink, Outlet, useLocation } from 'react-router';
import { api, type Session } from '../client/api.ts';
import { useAppDispatch, useAppSelector } from '../client/hooks.ts';
import { SessionContext } from '../client/session.ts';
import { useCountUnreadQuery } from '../features/bell/bellApi.ts';
import { PasswordDialog } from '../features/session/PasswordDialog.tsx';
import { SignInAgain } from '../features/session/SignInAgain.tsx';
import { useGetSessionQuery, useSignOutMutation } from '../features/session/sessionApi.ts';
import { useCountLateQuery } from '../features/today/todayApi.ts';
import { ErrorNotice } from '../parts/ErrorNotice.tsx';
import { Loading } from '../parts/Loading.tsx';
import { ROLE_NAMES } from '../parts/roleNames.ts';
import { ThemeButton } from './ThemeButton.tsx';

type SignedIn = NonNullable<Session['person']>;

/** The frame of every page behind the sign-in: the rail, and the page beside it. */
export function Shell() {
  const { data: session, error, isLoading } = useGetSessionQuery();
  const { pathname, search } = useLocation();
  const hasEnded = useAppSelector((root) => root.session.state === 'ended');
  if (isLoading) return <Loading />;
  if (!session) return <ErrorNotice error={error} />;
  if (!session.person) return <Navigate to="/sign-in" replace state={{ from: pathname + search }} />;
  return (
    <SessionContext value={{ person: session.person, organisation: session.organisation }}>
      <a className="skip-link" href="#page">
        Skip to the page
      </a>
      <div className="shell">
        <Rail person={session.person} />
        <main className="page" id="page">
          <Suspense fallback={<Loading />}>
            <Outlet />
          </Suspense>
        </main>
      </div>
      {hasEnded && <SignInAgain />}
    </SessionContext>
  );
}

function Rail({ person }: { person: SignedIn }) {
  const [first = '', last = ''] = person.name.split(' ');
  return (
    <nav className="rail" aria-label="Areas">
      <div className="wordmark">
        Dusty
        <br />
        Ladder
      </div>
      {person.role !== 'viewer' && <TodayArea />}
      <Area to="/deals" icon={<Kanban aria-hidden />} name="Deals" />
      <Area to="/processes" icon={<ListOl aria-hidden />} name="Processes" />
      <Area to="/compliance" icon={<ClipboardCheck aria-hidden />} name="Compliance" />
      <Area to="/movement" icon={<ArrowDownUp aria-hidden />} name="Movement" />
      {person.role === 'administrator' && (
        <>
          <Area to="/data" icon={<Files aria-hidden />} name="Data" />
          <Area to="/settings" icon={<Sliders aria-hidden />} name="Settings" />
        </>
      )}
      <BellArea />
      <div className="foot">
        <span>
          {first} {last.charAt(0)}.
          <br />
          {ROLE_NAMES[person.role]}
        </span>
        <ThemeButton />
        <PasswordButton />
        <SignOutButton />
      </div>
    </nav>
  );
}

/** One's day, with how much of it is late. */
function TodayArea() {
  const { data } = useCountLateQuery(undefined, { pollingInterval: LATE_POLLED_MS });
  return (
    <CountedArea
      to="/today"
      icon={<Sun aria-hidden />}
      name="Today"
      count={data ? data.held + data.late : 0}
      counted="held or late"
    />
  );
}

/** What others did that concerns one, with how much of it is unread. */
function BellArea() {
  const { data } = useCountUnreadQuery(undefined, { pollingInterval: LATE_POLLED_MS });
  return <CountedArea to="/bell" icon={<Bell aria-hidden />} name="Bell" count={data?.unread ?? 0} counted="unread" />;
}

/** What is late changes with the day, and by what others do. */
const LATE_POLLED_MS = 60_000;

interface AreaProps {
  readonly to: string;
  readonly icon: ReactNode;
  readonly name: string;
}

function Area({ to, icon, name }: AreaProps) {
  return (
    <NavLink to={to}>
      {icon}
      {name}
    </NavLink>
  );
}

interface CountedAreaProps extends AreaProps {
  readonly count: number;
  /** What is counted, for who does not see where the number stands. */
  readonly counted: string;
}

function CountedArea({ to, icon, name, count, counted }: CountedAreaProps) {
  return (
    <NavLink to={to}>
      {icon}
      {name}
      {count > 0 && (
        <span className="late-count">
          {count}
          <span className="visually-hidden"> {counted}</span>
        </span>
      )}
    </NavLink>
  );
}

function PasswordButton() {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <button type="button" onClick={() => setOpen(true)}>
        Password
      </button>
      {isOpen && <PasswordDialog onClose={() => setOpen(false)} />}
    </>
  );
}

function SignOutButton() {
  const [signOut] = useSignOutMutation();
  const dispatch = useAppDispatch();
  const leave = async () => {
    await signOut();
    dispatch(api.util.resetApiState());
  };
  return (
    <button type="button" onClick={leave}>
      Sign out
    </button>
  );
}
