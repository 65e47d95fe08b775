/** A thread that writes a document as PDF. */
import { parentPort, workerData } from 'node:worker_threads';
import { paperSchema } from '$lib/core/paper';
import { paperPdf } from '$lib/server/formats/pdf/pages';

parentPort?.postMessage(new Uint8Array(await paperPdf(paperSchema.parse(workerData))));
