import { notSupported } from '$lib/server/http/answers';

export const GET = () => notSupported('Checking a track');
