import { notSupported } from '$lib/server/http/answers';

export const POST = () => notSupported('Estimating the sync of a track');
