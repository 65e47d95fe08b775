/** The phrases of speaking into the application. */
import { plural } from '$lib/core/plural';
import type { NarrationAct } from '$lib/client/narration/keys';
import type { DeliveryState } from '$lib/client/narration/delivery';
import type { MicrophoneProblem } from '$lib/client/narration/microphone';
import type { InputTrouble } from '$lib/core/narration';

export const phrases = {
  page: 'Narrate',
  about: 'Speak, and see the words: what goes wrong is said again, and cut out later.',
  form: {
    about: 'About it',
    title: 'Title',
    usualTitle: (day: string) => `Narration of ${day}`,
    heardBy: 'Heard afterwards by',
    nobody: 'Nobody for now',
    script: 'Script',
    scriptAbout: 'To read from, if you like: it scrolls along with what is heard.'
  },
  microphone: {
    label: 'Microphone',
    usual: 'The one the browser prefers',
    switchOn: 'Switch on the microphone',
    switchOnAgain: 'Try again',
    processing: 'Let the browser change the sound',
    processingAbout: 'Off, the voice stays as it is. Echo cancelling helps where loudspeakers are on.',
    echoCancellation: 'Echo cancelling',
    noiseSuppression: 'Noise suppression',
    autoGainControl: 'Gain control',
    problems: {
      none: 'There is no microphone: plug one in, and try again.',
      refused: 'The browser does not let this page use the microphone: allow it beside the address, and try again.',
      busy: 'The microphone is used by another program, or does not start: close what uses it, and try again.',
      insecure:
        'Browsers give microphones to this machine’s own pages and to pages over https alone: open Vine Tap on the machine that it runs on, or over https.',
      unplugged: 'The microphone is gone. What was spoken is kept: plug it in again or choose another, and go on.',
      failed: 'The microphone could not be started: try again, or choose another.'
    } satisfies Record<MicrophoneProblem, string>
  },
  level: {
    label: 'Level',
    value: (db: number) => (Number.isFinite(db) ? `${Math.round(db)} dB` : 'silence'),
    troubles: {
      clipped: 'Too loud: it is cut off. Turn the microphone down, or move away from it.',
      silent: 'Nothing comes in: see whether the microphone is muted.'
    } satisfies Record<InputTrouble, string>
  },
  acts: {
    record: { still: 'Record', speaking: 'Pause', paused: 'Go on', ending: 'Go on' },
    again: 'Again from here',
    againAbout: 'Leaves out the last sentence, which you say anew',
    putBack: 'Put back',
    putBackAbout: 'What was left out last stands again',
    end: 'End it',
    endAbout: 'Makes a recording of it',
    keyed: (about: string, key: string) => `${about} (${key})`
  },
  state: {
    still: 'Not recording',
    speaking: 'Recording',
    paused: 'Paused',
    ending: 'Sending the rest'
  },
  /** In minutes, or in hours where there are many. */
  room: (ms: number): string => {
    const minutes = Math.floor(ms / 60_000);
    return `room for ${minutes >= 180 ? plural(Math.floor(minutes / 60), 'hour') : plural(minutes, 'minute')} more`;
  },
  unsent: (seconds: number) => `${seconds} s not sent yet`,
  delivery: {
    fine: '',
    away: 'The server does not answer. Go on speaking: the sound is kept here and sent when it is back.',
    full: 'The server’s disk is full. The sound is kept here: make room, and it is sent.',
    elsewhere: 'Another window goes on with this narration: this one has stopped.',
    over: 'This narration was ended elsewhere: it is among the recordings.',
    refused: ''
  } satisfies Record<DeliveryState, string>,
  notKept: 'This browser keeps nothing: what is not sent yet goes with the window.',
  notHeard: 'The words come later: nobody hears this language while it is spoken, or two narrations are heard already.',
  words: 'Words',
  nothingYet: 'The words appear here while you speak.',
  leftOut: 'left out',
  script: 'Script',
  readOn: (word: string) => `Read on at ${word}`,
  broken: {
    title: 'Not ended yet',
    goOn: 'Go on',
    goOnWith: (title: string) => `Go on with ${title}`,
    end: 'End it',
    endThat: (title: string) => `End it: ${title}`,
    elsewhere: 'being spoken in another window',
    spoken: (clock: string) => `${clock} spoken`
  },
  keyHints: (keys: Record<NarrationAct, string>) =>
    `${keys.record} records and pauses, ${keys.again} says the last sentence anew, ${keys.putBack} puts back, ${keys.end} ends it.`
};
