<template>
  <article class="paper sheet-paper"><slot /></article>
</template>

<style scoped>
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
