import { Moon, Sun } from 'lucide-react';
import { useUi } from '../data/ui';

/** How buttons on the bar at the top look. */
export const plate = 'quick flex h-[27px] items-center gap-1.5 border border-[#565d61] px-2.5 hover:border-[#f6f4ef]';

export function ThemeButton() {
    const { theme, set } = useUi();
    return (
        <button type="button" className={plate} onClick={() => set({ theme: theme === 'day' ? 'night' : 'day' })} aria-label={theme === 'day' ? 'Switch to night' : 'Switch to day'}>
            {theme === 'day' ? <Moon size={13} aria-hidden /> : <Sun size={13} aria-hidden />}
            {theme === 'day' ? 'Night' : 'Day'}
        </button>
    );
}
