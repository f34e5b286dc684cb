import { QueryClient } from '@tanstack/react-query';

/** What was asked of the server and is kept. */
export const queryClient = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } });
