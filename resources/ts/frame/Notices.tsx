import { useLocation } from 'react-router';
import { Toaster } from 'sonner';

/** Notices, where nothing to be pressed lies: in a shot over the picture, below the props; in the yard at its foot. */
export function Notices() {
    const inShot = useLocation().pathname.startsWith('/shots/');
    return <Toaster position={inShot ? 'top-left' : 'bottom-left'} offset={inShot ? { top: 108, left: 84 } : 24} toastOptions={{ className: 'font-sans', duration: 8000 }} />;
}
