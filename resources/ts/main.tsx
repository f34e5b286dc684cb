import '@fontsource/archivo/400.css';
import '@fontsource/archivo/500.css';
import '@fontsource/archivo/600.css';
import '@fontsource/archivo/700.css';
import '@fontsource/archivo/800.css';
import '@fontsource/archivo-narrow/500.css';
import '@fontsource/ibm-plex-mono/400.css';
import '@fontsource/ibm-plex-mono/500.css';
import 'sonner/dist/styles.css';
import '../css/app.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { setNonce } from 'get-nonce';
import { Tooltip } from 'radix-ui';
import { lazy, StrictMode, Suspense, useState } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Route, Routes } from 'react-router';
import { useHelp } from './data/help';
import { useLesson } from './data/lesson';
import { queryClient } from './data/queries';
import { Broken } from './frame/Broken';
import { ShotPage } from './frame/ShotPage';
import { Notices } from './frame/Notices';
import { SignIn } from './frame/SignIn';
import { Yard } from './yard/Yard';

/** Read where it is asked for: until then none of it is loaded. */
function HelpWhereAsked() {
    const on = useHelp((s) => s.page !== null);
    // Once there it stays: a window must end by itself, or what lies below stays out of reach.
    const [asked, setAsked] = useState(false);
    if (on && !asked) setAsked(true);
    return asked ? <Suspense fallback={null}><HelpWindow /></Suspense> : null;
}

/** Only where a lesson is being done. */
function LessonWhereDone() {
    return useLesson((s) => s.on !== null) ? <Suspense fallback={null}><LessonPlate /></Suspense> : null;
}

const LessonPlate = lazy(() => import('./frame/LessonPlate').then((m) => ({ default: m.LessonPlate })));
const HelpWindow = lazy(() => import('./frame/HelpWindow').then((m) => ({ default: m.HelpWindow })));
const TrialPage = lazy(() => import('./wall/WallPage').then((m) => ({ default: m.TrialPage })));
const ComparePage = lazy(() => import('./wall/WallPage').then((m) => ({ default: m.ComparePage })));

// Styles that windows put into the page while they are open must bear it.
setNonce(document.querySelector<HTMLScriptElement>('script[nonce]')?.nonce ?? '');

createRoot(document.getElementById('app')!).render(
    <StrictMode>
        <Broken>
            <QueryClientProvider client={queryClient}>
                <Tooltip.Provider delayDuration={400}>
                    <BrowserRouter basename={new URL(document.baseURI).pathname}>
                        <Routes>
                            <Route path="/" element={<Yard />} />
                            <Route path="/shots/:id" element={<ShotPage />} />
                            <Route path="/shots/:id/trials/:trial" element={<Suspense fallback={null}><TrialPage /></Suspense>} />
                            <Route path="/shots/:id/compare" element={<Suspense fallback={null}><ComparePage /></Suspense>} />
                            <Route path="*" element={<Yard />} />
                        </Routes>
                        <HelpWhereAsked />
                        <LessonWhereDone />
                        <Notices />
                    </BrowserRouter>
                    <SignIn />
                </Tooltip.Provider>
            </QueryClientProvider>
        </Broken>
    </StrictMode>,
);
