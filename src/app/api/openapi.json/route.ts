import { openApi } from '@/app/server/openapi';

/** The interface for programs, made from the definitions that check every request; `/reference` is for reading. */
export const GET = (): Response => Response.json(openApi());
