<script lang="ts">
  import { titleOf } from '$lib/client/keys/key-sets';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';

  const desk = useTrackDesk();
  const { session } = desk;

  async function tryAgain(refused: (typeof session.refused)[number]): Promise<void> {
    const done = await session.tryAgain(refused);
    desk.say(done.ok ? 'Done this time.' : done.problem.message);
  }
  async function copy(text: string): Promise<void> {
    try {
      await navigator.clipboard.writeText(text);
      desk.say('Copied.');
    } catch {
      desk.say('The browser does not let this be copied: select the text and copy it yourself.');
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
      >{session.refused.length > 0 ? `${session.refused.length} not applied` : 'Part of the log cannot be read'}</button
    >
    {#if desk.isUnappliedOpen}
      <section class="floating" aria-label="What could not be applied">
        {#each session.breaks as found (found.fromRevision)}
          <p>
            Changes {found.fromRevision} to {found.toRevision} of this track could not be read; it was opened as it was before
            them, and they are still in the database. <span class="soft">{found.problem}</span>
          </p>
        {/each}
        {#if session.refused.length > 0}
          <p>These were not taken into the track. They are kept here until you dismiss them.</p>
        {/if}
        <ul>
          {#each session.refused as refused (refused.batchId)}
            <li>
              <q>{refused.text}</q>
              <span class="soft">{refused.reason}</span>
              <div class="acts">
                {#if refused.commands !== null}
                  <button class="act quiet" onclick={() => void tryAgain(refused)}>Try again</button>
                {/if}
                <button class="act quiet" onclick={() => void copy(refused.text)}>Copy the text</button>
                <button class="act quiet" onclick={() => void session.dropRefused(refused.batchId)}>Dismiss</button>
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
