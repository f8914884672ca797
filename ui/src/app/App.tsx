import { lazy, Suspense } from 'react';
import { Route, Switch } from 'wouter';

import type { StationKey } from '../api/client';
import type { PuzzleLevel } from '../api/practise';
import { Fallen, NothingHere } from './Fallen';
import { NoticeTray } from './NoticeTray';

const JobList = lazy(() => import('./JobList'));
const JobScreen = lazy(() => import('./JobScreen'));
const BenchPage = lazy(() => import('../phone/BenchPage'));
const PhonePage = lazy(() => import('../phone/PhonePage'));
const TonightPage = lazy(() => import('../tonight/TonightPage'));
const LedgerPage = lazy(() => import('../ledger/LedgerPage'));
const GuidePage = lazy(() => import('./GuidePage'));
const PlayPage = lazy(() => import('../practise/PlayPage'));
const PractisePage = lazy(() => import('../practise/PractisePage'));
const PuzzlePage = lazy(() => import('../practise/PuzzlePage'));
const WordsPage = lazy(() => import('./WordsPage'));
const WrongPage = lazy(() => import('../ledger/WrongPage'));

export function App() {
  return (
    <Fallen>
      <Suspense fallback={<main className="p-10 text-soft">Opening …</main>}>
        <Switch>
          <Route path="/phone">
            <PhonePage />
          </Route>
          <Route path="/tonight">
            <TonightPage />
          </Route>
          <Route path="/ledger">
            <LedgerPage />
          </Route>
          <Route path="/words">
            <WordsPage />
          </Route>
          <Route path="/wrong">
            <WrongPage />
          </Route>
          <Route path="/guide">
            <GuidePage />
          </Route>
          <Route path="/guide/:page">{(at) => <GuidePage page={at.page} />}</Route>
          <Route path="/practise">
            <PractisePage />
          </Route>
          <Route path="/practise/plays/:id">{(at) => <PlayPage key={at.id} id={Number(at.id)} />}</Route>
          <Route path="/practise/find/:level/:seed">
            {(at) => <PuzzlePage key={at.seed} level={at.level as PuzzleLevel} seed={Number(at.seed)} />}
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
      </Suspense>
      <NoticeTray />
    </Fallen>
  );
}
