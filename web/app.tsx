import { useQuery } from '@tanstack/react-query'
import { lazy, type ReactElement, Suspense } from 'react'
import { createBrowserRouter, Navigate, type RouteObject, RouterProvider } from 'react-router'
import { ApiError } from './app/api.ts'
import { CommandProvider } from './app/commands.tsx'
import { HouseProvider } from './app/house.tsx'
import { houseQuery, readyQuery } from './app/queries.ts'
import { useMaybeWho } from './app/who.ts'
import { MenuPage } from './features/menu/MenuPage.tsx'
import { OwnSecretFirst } from './features/people/OwnSecretFirst.tsx'
import { storedImport } from './features/setup/useImport.ts'
import { useLive } from './live/index.ts'
import type { PagePath } from './shell/places.ts'
import { Shell } from './shell/Shell.tsx'
import { ErrorBoundary } from './ui/ErrorBoundary.tsx'
import { Empty, Failure, Loading } from './ui/States.tsx'

// The menu comes first; the drink, which is opened from it, and the list of all come while nobody waits.
const fetchDrinkPage = () => import('./features/drink/DrinkPage.tsx').then((m) => ({ default: m.DrinkPage }))
const fetchDrinksPage = () => import('./features/drinks/DrinksPage.tsx').then((m) => ({ default: m.DrinksPage }))
const DrinkPage = lazy(fetchDrinkPage)
const DrinksPage = lazy(fetchDrinksPage)
// What does not come now is asked for again when it is opened.
const fetchNext = () => Promise.all([fetchDrinkPage(), fetchDrinksPage()]).catch(() => undefined)
window.addEventListener('load', () => setTimeout(() => void fetchNext(), 500))

// What most evenings do not open is fetched when it is opened.
const RailPage = lazy(() => import('./features/rail/RailPage.tsx').then((m) => ({ default: m.RailPage })))
const CardsPage = lazy(() => import('./features/cards/CardsPage.tsx').then((m) => ({ default: m.CardsPage })))
const LearnPage = lazy(() => import('./features/learn/LearnPage.tsx').then((m) => ({ default: m.LearnPage })))
const SignInPage = lazy(() => import('./features/people/SignInPage.tsx').then((m) => ({ default: m.SignInPage })))
const GoOn = lazy(() => import('./features/people/GoOn.tsx').then((m) => ({ default: m.GoOn })))
const SignInDialog = lazy(() => import('./features/people/SignInDialog.tsx').then((m) => ({ default: m.SignInDialog })))
const GuestMenuPage = lazy(() =>
  import('./features/menu/GuestMenuPage.tsx').then((m) => ({ default: m.GuestMenuPage })),
)
const ClaimPage = lazy(() => import('./features/setup/ClaimPage.tsx').then((m) => ({ default: m.ClaimPage })))
const BackBarPage = lazy(() => import('./features/backBar/BackBarPage.tsx').then((m) => ({ default: m.BackBarPage })))
const BasePage = lazy(() => import('./features/base/BasePage.tsx').then((m) => ({ default: m.BasePage })))
const BlendPage = lazy(() => import('./features/blends/BlendPage.tsx').then((m) => ({ default: m.BlendPage })))
const ComparePage = lazy(() => import('./features/compare/ComparePage.tsx').then((m) => ({ default: m.ComparePage })))
const FlightPage = lazy(() => import('./features/tasting/FlightPage.tsx').then((m) => ({ default: m.FlightPage })))
const SlotPage = lazy(() => import('./features/slots/SlotPage.tsx').then((m) => ({ default: m.SlotPage })))
const StandInPage = lazy(() => import('./features/standIn/StandInPage.tsx').then((m) => ({ default: m.StandInPage })))
const EditionPage = lazy(() => import('./features/editions/EditionPage.tsx').then((m) => ({ default: m.EditionPage })))
const EditionsPage = lazy(() =>
  import('./features/editions/EditionsPage.tsx').then((m) => ({ default: m.EditionsPage })),
)
const LockedDrinkPage = lazy(() =>
  import('./features/editions/LockedDrinkPage.tsx').then((m) => ({ default: m.LockedDrinkPage })),
)
const HousePage = lazy(() => import('./features/house/HousePage.tsx').then((m) => ({ default: m.HousePage })))
const LotPage = lazy(() => import('./features/lots/LotPage.tsx').then((m) => ({ default: m.LotPage })))
const LotsPage = lazy(() => import('./features/lots/LotsPage.tsx').then((m) => ({ default: m.LotsPage })))
const MakeLotPage = lazy(() => import('./features/lots/MakeLotPage.tsx').then((m) => ({ default: m.MakeLotPage })))
const MixPage = lazy(() => import('./features/mixes/MixPage.tsx').then((m) => ({ default: m.MixPage })))
const MixesPage = lazy(() => import('./features/mixes/MixesPage.tsx').then((m) => ({ default: m.MixesPage })))
const NextEditionPage = lazy(() =>
  import('./features/next/NextEditionPage.tsx').then((m) => ({ default: m.NextEditionPage })),
)
const IcePage = lazy(() => import('./features/ice/IcePage.tsx').then((m) => ({ default: m.IcePage })))
const StationPage = lazy(() => import('./features/ice/StationPage.tsx').then((m) => ({ default: m.StationPage })))
const TrialPage = lazy(() => import('./features/ice/TrialPage.tsx').then((m) => ({ default: m.TrialPage })))
const WellPage = lazy(() => import('./features/ice/WellPage.tsx').then((m) => ({ default: m.WellPage })))
const NewWellPage = lazy(() => import('./features/ice/NewWellPage.tsx').then((m) => ({ default: m.NewWellPage })))
const GlassesPage = lazy(() => import('./features/ice/GlassesPage.tsx').then((m) => ({ default: m.GlassesPage })))
const DrinkBenchPage = lazy(() =>
  import('./features/bench/DrinkBenchPage.tsx').then((m) => ({ default: m.DrinkBenchPage })),
)
const LineagePage = lazy(() => import('./features/lineage/LineagePage.tsx').then((m) => ({ default: m.LineagePage })))
const ResearchPage = lazy(() =>
  import('./features/lineage/ResearchPage.tsx').then((m) => ({ default: m.ResearchPage })),
)
const SheetPage = lazy(() => import('./features/compare/SheetPage.tsx').then((m) => ({ default: m.SheetPage })))
const DriftPage = lazy(() => import('./features/drift/DriftPage.tsx').then((m) => ({ default: m.DriftPage })))
const PourPage = lazy(() => import('./features/pour/PourPage.tsx').then((m) => ({ default: m.PourPage })))
const OutPage = lazy(() => import('./features/out/OutPage.tsx').then((m) => ({ default: m.OutPage })))
const TastingsPage = lazy(() =>
  import('./features/tastings/TastingsPage.tsx').then((m) => ({ default: m.TastingsPage })),
)
const TastingPage = lazy(() => import('./features/tastings/TastingPage.tsx').then((m) => ({ default: m.TastingPage })))
const TunePage = lazy(() => import('./features/tune/TunePage.tsx').then((m) => ({ default: m.TunePage })))
const PeoplePage = lazy(() => import('./features/people/PeoplePage.tsx').then((m) => ({ default: m.PeoplePage })))
const YouPage = lazy(() => import('./features/people/YouPage.tsx').then((m) => ({ default: m.YouPage })))
const AuditPage = lazy(() => import('./features/audit/AuditPage.tsx').then((m) => ({ default: m.AuditPage })))
const SetUpPage = lazy(() => import('./features/setup/SetUpPage.tsx').then((m) => ({ default: m.SetUpPage })))

/** What stands at each address. */
const ELEMENTS: Record<Exclude<PagePath, '/rail' | '/cards' | '/learn'>, ReactElement> = {
  '/': <MenuPage />,
  '/drinks': <DrinksPage />,
  '/drinks/:slug': <DrinkPage />,
  '/next': <NextEditionPage />,
  '/editions': <EditionsPage />,
  '/editions/:number': <EditionPage />,
  '/editions/:number/:drink': <LockedDrinkPage />,
  '/base': <BasePage />,
  '/blends/:slug': <BlendPage />,
  '/slots/:slug': <SlotPage />,
  '/flight': <FlightPage />,
  '/stand-in': <StandInPage />,
  '/out': <OutPage />,
  '/pour': <PourPage />,
  '/adrift': <DriftPage />,
  '/compare': <ComparePage />,
  '/compare/sheet': <SheetPage />,
  '/mixes': <MixesPage />,
  '/mixes/:slug': <MixPage />,
  '/mixes/:slug/make': <MakeLotPage />,
  '/lots': <LotsPage />,
  '/lots/:id': <LotPage />,
  '/back-bar': <BackBarPage />,
  '/drinks/:slug/bench': <DrinkBenchPage />,
  '/drinks/:slug/lineage': <LineagePage />,
  '/drinks/:slug/tune': <TunePage />,
  '/research': <ResearchPage />,
  '/tastings': <TastingsPage />,
  '/tastings/:id': <TastingPage />,
  '/ice': <IcePage />,
  '/ice/trial': <TrialPage />,
  '/ice/glasses': <GlassesPage />,
  '/ice/new': <NewWellPage />,
  '/ice/:well': <WellPage />,
  '/ice/:well/:station': <StationPage />,
  '/house': <HousePage />,
  '/people': <PeoplePage />,
  '/audit': <AuditPage />,
  '/house/you': <YouPage />,
}
const PLACES: RouteObject[] = [
  ...Object.entries(ELEMENTS).map(([path, element]) => ({ path, element })),
  { path: '/tonight', element: <Navigate to="/" replace /> },
  { path: '/shelf', element: <Navigate to="/back-bar" replace /> },
  {
    path: '*',
    element: (
      <Empty title="There is no such place">
        The address may be old. The menu is always the first word of the line.
      </Empty>
    ),
  },
]

const router = createBrowserRouter([
  // For making: nothing else is on the screen.
  ...[
    { path: '/rail', element: <RailPage /> },
    { path: '/cards', element: <CardsPage /> },
    { path: '/learn', element: <LearnPage /> },
  ].map(({ path, element }) => ({
    path,
    element: (
      <ErrorBoundary>
        <Suspense fallback={<Loading what="the page" />}>{element}</Suspense>
      </ErrorBoundary>
    ),
  })),
  { element: <Shell Door={SignInDialog} />, children: PLACES },
])

export function App() {
  const ready = useQuery(readyQuery)
  const who = useMaybeWho()
  if (ready.isPending) return <Loading what="the house" />
  if (!ready.data) return <Failure error={ready.error} onRetry={() => ready.refetch()} />
  if (!ready.data.isSetUp)
    return (
      <Suspense fallback={<Loading what="the first page" />}>
        <SetUpPage />
      </Suspense>
    )
  const importId = who ? undefined : storedImport()
  if (importId)
    return (
      <Suspense fallback={<Loading what="who came along" />}>
        <ClaimPage importId={importId}>
          <SignInPage />
        </ClaimPage>
      </Suspense>
    )
  if (!who)
    return (
      <Suspense fallback={<Loading what="the door" />}>
        <SignInPage />
      </Suspense>
    )
  return (
    <OwnSecretFirst key={who.id}>
      <Live key={`${who.id} ${who.role}`} />
      {who.role === 'viewer' ? (
        <Suspense fallback={<Loading what="the menu" />}>
          <GuestMenuPage />
        </Suspense>
      ) : (
        <OpenHouse key={who.id} />
      )}
    </OwnSecretFirst>
  )
}

/** Nothing of the house is kept for a manager; whoever tends bar at this device may have their cards on it. */
function NoHouse({ error, onRetry }: { error: Error | null; onRetry: () => void }) {
  const who = useMaybeWho()
  const isAway = error instanceof ApiError && error.isAway
  return (
    <main>
      <Failure error={error} onRetry={onRetry} />
      {isAway && who?.role === 'manager' && (
        <section aria-label="The bar goes on" className="m-6 max-w-xl">
          <h2 className="text-lg">Does somebody of the bar go on here?</h2>
          <Suspense fallback={null}>
            <GoOn onIn={() => {}} />
          </Suspense>
        </section>
      )}
    </main>
  )
}

/** Follows what happens, for whoever works here. */
function Live() {
  useLive()
  return null
}

/** The house as the one who works here may see it. */
function OpenHouse() {
  const house = useQuery(houseQuery)
  if (house.isPending) return <Loading what="the house" />
  if (!house.data) return <NoHouse error={house.error} onRetry={() => house.refetch()} />
  return (
    <HouseProvider house={house.data}>
      <CommandProvider>
        <RouterProvider router={router} />
      </CommandProvider>
    </HouseProvider>
  )
}
