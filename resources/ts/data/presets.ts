import { toast } from 'sonner';
import { useShot } from './shot';

/** Lays kept values of a bench on props, as one change; what makes no sense there is said. */
export async function layPreset(preset: string, onto: readonly string[]): Promise<void> {
    const told = await useShot.getState().layPreset(preset, onto);
    if (told !== null && told.left.length > 0) toast('Some of the preset makes no sense here and was left out.', { description: told.left.join(' '), duration: 12000 });
}
