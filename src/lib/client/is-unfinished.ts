import type { Job } from './api';

/** It waits, or is at work. */
export const isUnfinished = ({ state }: Job): boolean => state === 'queued' || state === 'running';
