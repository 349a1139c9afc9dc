<template>
  <article class="paper"><slot /></article>
</template>

<style scoped>
.paper {
  background: var(--paper);
  border: 1px solid var(--frost);
  padding: 24px 34px;
  margin-top: 14px;
}
@media (max-width: 600px) {
  .paper {
    padding: 16px;
    margin-left: -16px;
    margin-right: -16px;
    border-left: 0;
    border-right: 0;
  }
}
</style>
