<template>
  <section class="bed">
    <div class="sheet-paper"><slot /></div>
  </section>
</template>

<style scoped>
.bed {
  flex: 1;
  background: var(--bed);
  padding: 16px 22px 40px;
  min-width: 0;
}
.sheet-paper {
  max-width: 720px;
  margin: 0 auto;
  padding: 30px 46px 40px;
}
</style>
