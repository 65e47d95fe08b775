import { notSupported } from '$lib/server/http/answers';

export const POST = () => notSupported('Shifting and stretching a track');
