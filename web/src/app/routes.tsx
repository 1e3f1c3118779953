import { lazy } from 'react';
import { BrowserRouter, Route, Routes } from 'react-router';
import { Page } from '../parts/page';
import Today from '../screens/today/today';
import { Allowed, First } from './allowed';
import { Shell } from './shell';

const Billing = lazy(() => import('../screens/billing/billing'));
const BillClient = lazy(() => import('../screens/billing/bill-client'));
const InvoicePage = lazy(() => import('../screens/billing/invoice-page'));
const QuotePage = lazy(() => import('../screens/billing/quote-page'));
const Costs = lazy(() => import('../screens/costs/costs'));
const NewCost = lazy(() => import('../screens/costs/new-cost'));
const CostPage = lazy(() => import('../screens/costs/cost-page'));
const Clients = lazy(() => import('../screens/clients/clients'));
const ClientPage = lazy(() => import('../screens/clients/client-page'));
const WorkIn = lazy(() => import('../screens/clients/work-in'));
const ContractPage = lazy(() => import('../screens/clients/contract-page'));
const ProjectPage = lazy(() => import('../screens/clients/project-page'));
const Sift = lazy(() => import('../screens/sift/sift'));
const AllTime = lazy(() => import('../screens/time/all-time'));
const Week = lazy(() => import('../screens/week/week'));
const Reports = lazy(() => import('../screens/reports/reports'));
const ReportPage = lazy(() => import('../screens/reports/report-page'));
const StandingPage = lazy(() => import('../screens/reports/standing-page'));
const HoursIn = lazy(() => import('../screens/hours/hours-in'));
const HoursOut = lazy(() => import('../screens/hours/hours-out'));
const Team = lazy(() => import('../screens/team/team'));
const MemberSheet = lazy(() => import('../screens/team/member-sheet'));
const Sealed = lazy(() => import('../screens/team/sealed'));
const Start = lazy(() => import('../screens/start/start'));
const Setup = lazy(() => import('../screens/setup/setup'));

/** Today comes with the first load; every other screen when it is asked for. */
export function Screens() {
  return (
    <BrowserRouter>
      <Routes>
        <Route element={<Shell />}>
          <Route path="/" element={<First />} />
          <Route element={<Allowed path="/today" />}>
            <Route path="/today" element={<Today />} />
            <Route path="/time" element={<AllTime />} />
            <Route path="/hours/in" element={<HoursIn />} />
            <Route path="/hours/out" element={<HoursOut />} />
          </Route>
          <Route element={<Allowed path="/sift" />}>
            <Route path="/sift/:part?" element={<Sift />} />
          </Route>
          <Route element={<Allowed path="/week" />}>
            <Route path="/week" element={<Week />} />
          </Route>
          <Route element={<Allowed path="/billing" />}>
            <Route path="/billing/:part?" element={<Billing />} />
            <Route path="/billing/client/:clientId" element={<BillClient />} />
            <Route path="/billing/invoice/:invoiceId" element={<InvoicePage />} />
            <Route path="/billing/quote/:quoteId" element={<QuotePage />} />
          </Route>
          <Route element={<Allowed path="/costs" />}>
            <Route path="/costs/new/:kind" element={<NewCost />} />
            <Route path="/costs/cost/:costId" element={<CostPage />} />
            <Route path="/costs/:part?" element={<Costs />} />
          </Route>
          <Route element={<Allowed path="/reports" />}>
            <Route path="/reports" element={<Reports />} />
            <Route path="/reports/standing/:of" element={<StandingPage />} />
            <Route path="/reports/:from/:id" element={<ReportPage />} />
          </Route>
          <Route element={<Allowed path="/clients" />}>
            <Route path="/clients" element={<Clients />} />
            <Route path="/clients/in" element={<WorkIn />} />
            <Route path="/clients/project/:projectId/:part?" element={<ProjectPage />} />
            <Route path="/clients/contract/:contractId" element={<ContractPage />} />
            <Route path="/clients/:clientId/:part?" element={<ClientPage />} />
          </Route>
          <Route element={<Allowed path="/team" />}>
            <Route path="/team/member/:memberId" element={<MemberSheet />} />
            <Route path="/team/:part?" element={<Team />} />
          </Route>
          <Route path="/sealed" element={<Sealed />} />
          <Route path="/start" element={<Start />} />
          <Route path="/setup/:part?" element={<Setup />} />
          <Route path="*" element={<Nowhere />} />
        </Route>
      </Routes>
    </BrowserRouter>
  );
}

function Nowhere() {
  return (
    <Page title="Nothing is here">
      <p className="text-soft">
        This address leads nowhere. Nothing has happened to your data; choose a screen in the index.
      </p>
    </Page>
  );
}
