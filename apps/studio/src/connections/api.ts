import type { Connection } from '@ruta/core/connections';
import type { ConversionRule, NewConversionRule, RuleChoices } from '@ruta/core/conversions';
import type { LeadSource, MadeLeadSource, NewLeadSource } from '@ruta/core/leads';
import type { ListPage } from '@ruta/core/lists';
import type { Message, MessageListQuery } from '@ruta/core/messages';
import type { UnknownCharge } from '@ruta/core/payments';
import type { NewWebhook, Webhook, WebhookChange, WebhookSecret } from '@ruta/core/webhooks';
import { api, withQuery } from '../base/api';
import { PAGING } from '../lists/list';

/** Outside services that can be connected. */
export type Service = 'quayside' | 'studyporch';

export const connectionsApi = api.injectEndpoints({
  endpoints: (build) => ({
    connection: build.query<Connection, Service>({ query: (service) => `/connections/${service}`, providesTags: ['Connection'] }),
    connect: build.mutation<Connection, Service>({
      query: (service) => ({ url: `/connections/${service}`, method: 'POST', body: {} }),
      invalidatesTags: ['Connection', 'Funnel', 'Today'],
    }),
    unknownCharges: build.query<UnknownCharge[], void>({ query: () => '/connections/unknown-charges', providesTags: ['Connection'] }),
    refundUnknown: build.mutation<UnknownCharge[], string>({
      query: (id) => ({ url: `/connections/unknown-charges/${id}/refund`, method: 'POST', body: {} }),
      invalidatesTags: ['Connection', 'Today'],
    }),
    dealtWith: build.mutation<UnknownCharge[], string>({
      query: (id) => ({ url: `/connections/unknown-charges/${id}/dealt-with`, method: 'POST', body: {} }),
      invalidatesTags: ['Connection', 'Today'],
    }),
    leadSources: build.query<LeadSource[], void>({ query: () => '/lead-sources', providesTags: ['Connection'] }),
    addLeadSource: build.mutation<MadeLeadSource, NewLeadSource>({
      query: (body) => ({ url: '/lead-sources', method: 'POST', body }),
      invalidatesTags: ['Connection'],
    }),
    webhooks: build.query<Webhook[], void>({ query: () => '/webhooks', providesTags: ['Webhook'] }),
    addWebhook: build.mutation<WebhookSecret, NewWebhook>({ query: (body) => ({ url: '/webhooks', method: 'POST', body }), invalidatesTags: ['Webhook'] }),
    changeWebhook: build.mutation<Webhook, WebhookChange & { id: string }>({
      query: ({ id, ...body }) => ({ url: `/webhooks/${id}`, method: 'PUT', body }),
      invalidatesTags: ['Webhook'],
    }),
    rotateSecret: build.mutation<WebhookSecret, string>({ query: (id) => ({ url: `/webhooks/${id}/secret`, method: 'POST' }), invalidatesTags: ['Webhook'] }),
    removeWebhook: build.mutation<Webhook[], string>({ query: (id) => ({ url: `/webhooks/${id}`, method: 'DELETE' }), invalidatesTags: ['Webhook'] }),
    messages: build.infiniteQuery<ListPage<Message>, { receiverId: string } & Pick<MessageListQuery, 'state'>, string | null>({
      query: ({ queryArg: { receiverId, state }, pageParam }) => withQuery(`/messages/to/${receiverId}`, { state, limit: 50, after: pageParam }),
      infiniteQueryOptions: PAGING,
      providesTags: ['Message'],
    }),
    sendMessageAgain: build.mutation<unknown, string>({
      query: (id) => ({ url: `/messages/${id}/again`, method: 'POST' }),
      invalidatesTags: ['Message', 'Webhook', 'ConversionRule'],
    }),
    conversionRules: build.query<ConversionRule[], void>({ query: () => '/conversion-rules', providesTags: ['ConversionRule'] }),
    ruleChoices: build.query<RuleChoices, void>({ query: () => '/conversion-rules/choices', providesTags: ['Funnel'] }),
    addConversionRule: build.mutation<ConversionRule, NewConversionRule>({
      query: (body) => ({ url: '/conversion-rules', method: 'POST', body }),
      invalidatesTags: ['ConversionRule'],
    }),
    changeConversionRule: build.mutation<ConversionRule, { id: string; rule: NewConversionRule }>({
      query: ({ id, rule }) => ({ url: `/conversion-rules/${id}`, method: 'PUT', body: rule }),
      invalidatesTags: ['ConversionRule'],
    }),
    removeConversionRule: build.mutation<ConversionRule[], string>({
      query: (id) => ({ url: `/conversion-rules/${id}`, method: 'DELETE' }),
      invalidatesTags: ['ConversionRule'],
    }),
    removeLeadSource: build.mutation<LeadSource[], string>({
      query: (id) => ({ url: `/lead-sources/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Connection'],
    }),
  }),
});
