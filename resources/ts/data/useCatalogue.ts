import { useQuery } from '@tanstack/react-query';
import { api, type Catalogue } from './api';

export function useCatalogue(): Catalogue | undefined {
    return useQuery({ queryKey: ['catalogue'], queryFn: api.catalogue, staleTime: Infinity }).data;
}
