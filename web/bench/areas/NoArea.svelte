<!-- Said where controls have no area to act on. -->
<script lang="ts"></script>

<section class="column" aria-label="No area chosen">
  <p class="quiet text-sm" data-testid="no-area">
    No area is chosen, so there is nothing for these controls to act on: choose one in the list, or draw on
    the picture (page Shape).
  </p>
</section>
