import { useLocation } from 'react-router';
import { Toaster } from 'sonner';

/** Notices, where nothing to be pressed lies: in a shot over the picture, above what switches its view; in the yard at its foot. */
export function Notices() {
    const inShot = useLocation().pathname.startsWith('/shots/');
    return <Toaster position="bottom-left" offset={inShot ? { bottom: 'calc(var(--foot, 0px) + 10px)', left: 84 } : 24} toastOptions={{ className: 'font-sans', duration: 8000 }} />;
}
