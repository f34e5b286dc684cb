import type { Prop } from './document';
import { useShot } from './shot';
import { useUi } from './ui';

export function useChosen(): Prop | null {
    const chosen = useUi((s) => s.chosen);
    return useShot((s) => s.shot?.document.props.find((p) => p.id === chosen) ?? null);
}
