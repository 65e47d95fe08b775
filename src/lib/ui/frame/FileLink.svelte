<script lang="ts">
  import Download from '@lucide/svelte/icons/download';
  import type { Snippet } from 'svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** A file that the server makes of the open track: what is still on its way there goes first. */
  interface Props {
    href: string;
    /** What it is saved as, where the server does not say so. */
    name?: string;
    isQuiet?: boolean;
    /** What else must be there first. */
    before?: () => Promise<void>;
    children: Snippet;
  }
  let { href, name = '', isQuiet = false, before = () => Promise.resolve(), children }: Props = $props();
  const desk = useTrackDesk();
  let isReady = false;

  async function download(event: MouseEvent & { currentTarget: HTMLAnchorElement }): Promise<void> {
    if (isReady) return void (isReady = false);
    event.preventDefault();
    const link = event.currentTarget;
    if (desk.session.saveState !== 'saved') desk.say(phrases.fileLink.savingFirst);
    await Promise.all([desk.session.saved(), before()]);
    isReady = true;
    // Not while the first click is still under way, as it is after Enter: then this one would be none.
    setTimeout(() => link.click());
  }
</script>

<a class="act" class:filled={!isQuiet} {href} download={name} onclick={(event) => void download(event)}
  ><Download size={16} /> {@render children()}</a
>
