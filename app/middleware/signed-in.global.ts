/** Pages that nobody has to be signed in for. */
const open = /^\/(sign-in$|first-start$|list\/)/

/**
 * Who is not signed in here comes to the sign-in at once, and nothing is asked of the server that it must refuse. The
 * mark says that somebody signed in with this browser; who they are only the server knows.
 */
export default defineNuxtRouteMiddleware((to) => {
  if (open.test(to.path) || /(^|;\s*)corvend_here=1/.test(document.cookie)) return undefined
  return navigateTo({ path: '/sign-in', query: to.path === '/' ? {} : { then: to.fullPath } }, { replace: true })
})
