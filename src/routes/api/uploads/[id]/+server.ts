import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

const handle = ({ params, request }: RequestEvent) => answer(() => getApp().resumable.handle(request, params.id));

export { handle as DELETE, handle as HEAD, handle as OPTIONS, handle as PATCH };
