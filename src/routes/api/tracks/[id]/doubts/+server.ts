import { notSupported } from '$lib/server/http/answers';

export const GET = () => notSupported('Listing the doubts of a track');
