<script lang="ts">
  import { titleOf } from '$lib/client/keys/key-sets';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const session = $derived(desk.document);

  async function tryAgain(batchId: string): Promise<void> {
    const done = await session.tryAgain(batchId);
    desk.say(done.ok ? phrases.unapplied.doneThisTime : done.problem.message);
  }
  async function copy(text: string): Promise<void> {
    try {
      await navigator.clipboard.writeText(text);
      desk.say(phrases.unapplied.copied);
    } catch {
      desk.say(phrases.unapplied.cannotCopy);
    }
  }
</script>

{#if session.refused.length > 0 || session.breaks.length > 0}
  <div class="unapplied">
    <button
      class="act warn"
      aria-expanded={desk.isUnappliedOpen}
      title={titleOf('unapplied')}
      onclick={() => (desk.isUnappliedOpen = !desk.isUnappliedOpen)}
      >{session.refused.length > 0
        ? phrases.unapplied.notApplied(session.refused.length)
        : phrases.unapplied.logBroken}</button
    >
    {#if desk.isUnappliedOpen}
      <section class="floating" aria-label={phrases.unapplied.label}>
        {#each session.breaks as found (found.fromRevision)}
          <p>
            {phrases.unapplied.broken(found.fromRevision, found.toRevision)}
            <span class="soft">{found.problem}</span>
          </p>
        {/each}
        {#if session.refused.length > 0}
          <p>{phrases.unapplied.about}</p>
        {/if}
        <ul>
          {#each session.refused as refused (refused.batchId)}
            <li>
              <q>{refused.text}</q>
              <span class="soft">{refused.reason}</span>
              <div class="acts">
                {#if refused.commands !== null}
                  <button class="act quiet" onclick={() => void tryAgain(refused.batchId)}
                    >{phrases.unapplied.tryAgain}</button
                  >
                {/if}
                <button class="act quiet" onclick={() => void copy(refused.text)}
                  >{phrases.unapplied.copyTheText}</button
                >
                <button class="act quiet" onclick={() => void session.dropRefused(refused.batchId)}
                  >{phrases.unapplied.dismiss}</button
                >
              </div>
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  </div>
{/if}

<style>
  .unapplied {
    position: relative;
  }
  li {
    display: grid;
    gap: 4px;
    justify-items: start;
    margin-top: 12px;
    padding-top: 10px;
    border-top: 1px solid var(--rule);
  }
  q {
    overflow-wrap: anywhere;
    font-weight: 600;
    user-select: text;
  }
  span {
    font-size: 14px;
  }
  .acts {
    display: flex;
    gap: 6px;
    /* The words of the buttons stand under the text. */
    margin-left: -12px;
  }
</style>
