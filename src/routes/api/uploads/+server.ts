import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

const handle = ({ request }: RequestEvent) => answer(() => getApp().resumable.handle(request, null));

export { handle as OPTIONS, handle as POST };
