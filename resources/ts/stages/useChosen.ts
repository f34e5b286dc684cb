import type { Prop } from '../data/document';
import { useShot } from '../data/shot';
import { useUi } from '../data/ui';

export function useChosen(): Prop | null {
    const chosen = useUi((s) => s.chosen);
    return useShot((s) => s.shot?.document.props.find((p) => p.id === chosen) ?? null);
}
