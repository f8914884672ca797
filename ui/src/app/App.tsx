import { lazy, Suspense } from 'react';
import { Route, Switch } from 'wouter';

import type { StationKey } from '../api/client';
import { Fallen, NothingHere } from './Fallen';
import { JobList } from './JobList';
import { JobScreen } from './JobScreen';
import { BenchPage } from '../phone/BenchPage';
import { PhonePage } from '../phone/PhonePage';
import { NoticeTray } from './NoticeTray';

const TonightPage = lazy(() => import('../tonight/TonightPage'));
const LedgerPage = lazy(() => import('../ledger/LedgerPage'));
const WrongPage = lazy(() => import('../ledger/WrongPage'));

export function App() {
  return (
    <Fallen>
      <Switch>
        <Route path="/phone">
          <PhonePage />
        </Route>
        <Route path="/tonight">
          <Suspense>
            <TonightPage />
          </Suspense>
        </Route>
        <Route path="/ledger">
          <Suspense>
            <LedgerPage />
          </Suspense>
        </Route>
        <Route path="/wrong">
          <Suspense>
            <WrongPage />
          </Suspense>
        </Route>
        <Route path="/jobs/:id/bench">{(at) => <BenchPage key={at.id} jobId={Number(at.id)} />}</Route>
        <Route path="/jobs/:id/:station">
          {(at) => <JobScreen key={at.id} jobId={Number(at.id)} station={at.station as StationKey} />}
        </Route>
        <Route path="/jobs/:id">
          {(at) => <JobScreen key={at.id} jobId={Number(at.id)} station="sheet" />}
        </Route>
        <Route path="/">
          <JobList />
        </Route>
        <Route>
          <NothingHere />
        </Route>
      </Switch>
      <NoticeTray />
    </Fallen>
  );
}
