<template>
  <section class="lost">
    <h1>There is nothing at this address</h1>
    <p>The tune may be archived. <router-link to="/">Back to the shelf</router-link></p>
  </section>
</template>

<style scoped>
.lost {
  max-width: 640px;
  margin: 80px auto;
  padding: 0 24px;
}
</style>
