import { notSupported } from '$lib/server/http/answers';

export const GET = () => notSupported('The vocabulary');
export const PUT = GET;
