<template>
  <div class="page">
    <h1>Not here</h1>
    <p class="empty">
      There is nothing at this address.
      <RouterLink to="/arrivals" class="quiet-link">Go to Arrivals</RouterLink>
    </p>
  </div>
</template>
