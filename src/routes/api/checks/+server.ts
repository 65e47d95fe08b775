import { json } from '@sveltejs/kit';
import { CHECKS, describeCheck } from '$lib/core/checks';
import { answer } from '$lib/server/http/answers';

/** Every check there is, as the usual sheet has it. */
export const GET = () => answer(() => json({ checks: CHECKS.map(describeCheck) }));
