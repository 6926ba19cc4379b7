<script setup lang="ts">
import { texts } from '~/locales/desk'
import { formatAccountFault } from '~~/core/catalogue/calendars'
import { describeFault, formatFault } from '~~/core/catalogue/faults'
import { formatTitleFault } from '~~/core/catalogue/trail'
import { occasionName } from '~~/core/messages/occasions'
import { formatMoney } from '~~/core/payment/money'
import type { Attention } from '~~/core/views/desk'
import { useDesk } from '~/stores/desk'

/** One thing that did not work and waits for a person, with its one action. */

const props = defineProps<{ item: Attention, busy: boolean, when: (instant: number) => string }>()
const emit = defineEmits<{ act: [path: string] }>()
const desk = useDesk()

interface Shown {
  title: string
  text: string
  action: { name: string, path: string } | null
  link: { name: string, to: string } | null
  /** The call that does here what somebody has done elsewhere. */
  follow?: { name: string, path: string } | null
}

/** Whether clients are to be told of a cancellation waits for a second press. */
const asking = ref(false)

const taskWords: Record<string, string> = {
  deliver: texts.sendingAMessage,
  lookAtCalendars: texts.readingACalendar,
  writeEntries: texts.writingIntoACalendar,
  makeRoom: texts.makingAVideoRoom,
  withdrawRoom: texts.withdrawingAVideoRoom,
  changeRoom: texts.changingAVideoRoom,
  lookAtVideoAccount: texts.lookingAtAVideoAccount,
  checkPayment: texts.askingForAPayment,
  closePayment: texts.closingAPayment,
  refundPayment: texts.payingBack,
}

const shown = computed(
  (): Shown => {
    const { item } = props
    const next = 'nextTryAt' in item && item.nextTryAt ? texts.nextTry(props.when(item.nextTryAt)) : ''
    switch (item.kind) {
      case 'message':
        return {
          title: texts.messageFailed(
            item.unknown ? texts.perhapsNotArrived : texts.notSent, occasionName(item.occasion), props.when(item.start),
          ),
          text: texts.withTo(item.eventType, item.client, item.address, item.fault ? `: ${describeFault(item.fault)}` : '', next),
          action: { name: texts.sendAgain, path: `/api/desk/deliveries/${item.id}/send` },
          link: { name: texts.seeTheTrail, to: `/desk/sessions/${item.sessionId}` },
        }
      case 'room':
        return {
          title: item.ready ? texts.linkIsDead(props.when(item.start)) : item.withdrawn
            ? texts.aCancelledRoomIsStillThere(props.when(item.start))
            : texts.aRoomIsNotFinished(props.when(item.start)),
          text: `${item.eventType}. ${item.fault ? `${formatFault(item.fault)}.` : ''}${next}`,
          action: item.withdrawn ? { name: texts.tryAgainNow, path: `/api/desk/sessions/${item.sessionId}/room` } : null,
          link: { name: texts.seeTheTrail, to: `/desk/sessions/${item.sessionId}` },
        }
      case 'payment':
        return {
          title: (item.isRefund ? texts.notPaidBack : texts.paidOtherwise)(item.client, formatMoney(item, desk.locale)),
          text: `${item.eventType}. ${item.fault ? `${formatFault(item.fault)}.` : ''}${next}`,
          action: item.isRefund ? { name: texts.tryAgainNow, path: `/api/desk/bookings/${item.bookingId}/refund` } : null,
          link: { name: texts.seeTheTrail, to: `/desk/sessions/${item.sessionId}` },
        }
      case 'title':
        return {
          title: texts.calendarTitleFails(item.eventType),
          text: texts.standardTitleIsUsed(formatTitleFault(item.fault)),
          action: null,
          link: { name: texts.changeTheTitle, to: `/desk/event-types/${item.eventTypeId}?panel=afterwards` },
        }
      case 'calendar':
        return {
          title: texts.calendarSilent(item.own ? null : item.host, item.label, props.when(item.since)),
          text: `${item.fault ? formatAccountFault(item.fault) : ''} ${texts.lastReadHolds}`,
          action: item.own ? { name: texts.lookAgain, path: `/api/desk/calendar-accounts/${item.accountId}/look` } : null,
          link: { name: texts.seeConnections, to: '/desk/connections' },
        }
      case 'videoAccount':
        return {
          title: texts.videoAccountTroubled(item.own, item.host, item.service, item.state),
          text: [
            item.fault && item.state === 'refused' ? `${formatFault({ by: item.service, fault: item.fault })}.` : '',
            texts.videoAccountMeans(item.state, item.sessions),
          ].join(' '),
          action: item.state === 'lost' ? null : { name: texts.tryAgainNow, path: `/api/desk/connections/${item.accountId}/look` },
          link: { name: texts.seeConnections, to: `/desk/connections${item.host === null ? '?host=workspace' : ''}` },
        }
      case 'videoInvitation':
        return {
          title: item.until < desk.now
            ? texts.invitationEnded(item.host, item.service)
            : texts.invitationEnds(item.host, item.service, props.when(item.until)),
          text: texts.roomsUnderMainUser,
          action: null,
          link: { name: texts.seeConnections, to: '/desk/connections?host=workspace' },
        }
      case 'entry':
        return {
          title: item.what === 'deleted'
            ? texts.entryDeleted(item.host, props.when(item.start))
            : texts.entryMoved(item.host, props.when(item.start), item.movedTo === null ? '' : props.when(item.movedTo)),
          text: texts.entryWaits(item.eventType, item.what),
          action: { name: texts.putBack, path: `/api/desk/sessions/${item.sessionId}/entry/put-back` },
          follow: { name: item.what === 'deleted' ? texts.cancelTheSession : texts.moveTheSession, path: `/api/desk/sessions/${item.sessionId}/entry/follow` },
          link: { name: texts.seeTheSession, to: `/desk/sessions/${item.sessionId}` },
        }
      case 'hostLeft':
        return {
          title: texts.hostHasLeft(item.host, props.when(item.start)),
          text: texts.stillToBeHandedOver(item.eventType),
          action: null,
          link: { name: texts.handItOver, to: `/desk/sessions/${item.sessionId}` },
        }
      case 'noRoomWay':
        return {
          title: texts.noRoomWay(item.eventType),
          text: texts.noRoomWayMeans,
          action: null,
          link: { name: texts.seeConnections, to: '/desk/connections' },
        }
      case 'audit':
        return {
          title: texts.auditFound,
          text: texts.auditSays(item.found),
          action: null,
          link: null,
        }
      case 'noJobs':
        return {
          title: texts.messagesAndVideoLinksWait,
          text: texts.noProcessRunsJobs,
          action: null,
          link: null,
        }
      default:
        return {
          title: texts.keepsFailing(taskWords[item.task] ?? texts.aTask),
          text: texts.triedAgainByItself(next),
          action: { name: texts.tryAgainNow, path: `/api/desk/jobs/${item.id}/run` },
          link: null,
        }
    }
  },
)
</script>

<template>
  <div class="item">
    <h3 class="broken">{{ shown.title }}</h3>
    <p class="quiet" dir="auto">{{ shown.text }}</p>
    <p class="actions">
      <LinkButton
        v-if="shown.action" :disabled="busy" @click="emit('act', shown.action.path)"
      >{{ shown.action.name }}</LinkButton>
      <template v-if="shown.follow">
        <span v-if="asking">{{ texts.clientsAreTold }} <LinkButton :disabled="busy" @click="emit('act', shown.follow.path)">{{ shown.follow.name }}</LinkButton></span>
        <LinkButton v-else :disabled="busy" @click="asking = true">{{ shown.follow.name }}</LinkButton>
      </template>
      <NuxtLink v-if="shown.link" :to="shown.link.to">{{ shown.link.name }}</NuxtLink>
    </p>
  </div>
</template>
