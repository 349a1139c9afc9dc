<template>
  <div class="pad">
    <h1>Nothing is here</h1>
    <p class="soft">The address is mistyped, or what stood here has been removed. <router-link to="/">Go to your Desk</router-link></p>
  </div>
</template>
