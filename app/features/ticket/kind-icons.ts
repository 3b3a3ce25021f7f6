import { CalendarDays, Contact, Image, LayoutGrid, MessageSquareText, Phone } from '@lucide/vue'
import type { Component } from 'vue'

/** One line set, one colour: an icon a kind. */
export const kindIcons: Readonly<Record<string, Component>> = {
  contacts: Contact,
  messages: MessageSquareText,
  calls: Phone,
  calendar: CalendarDays,
  photos: Image,
  apps: LayoutGrid,
}
