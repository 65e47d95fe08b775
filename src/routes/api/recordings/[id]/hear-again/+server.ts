import { notSupported } from '$lib/server/http/answers';

export const POST = () => notSupported('Hearing a passage again');
