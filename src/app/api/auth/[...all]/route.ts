import { server } from '@/app/server/context';

export const dynamic = 'force-dynamic';
const answer = (request: Request): Promise<Response> => server().auth.handler(request);
export { answer as GET, answer as POST };
