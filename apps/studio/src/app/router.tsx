import { createBrowserRouter, Navigate } from 'react-router';
import { TodayPage } from '../today/TodayPage';
import { TabsLayout } from '../ui/Tabs';
import { NotHere } from './NotHere';
import { Shell } from './Shell';

const SALES = [
  { to: '/sales/orders', name: 'Orders' },
  { to: '/sales/carts', name: 'Carts' },
  { to: '/sales/contacts', name: 'Contacts' },
  { to: '/sales/appointments', name: 'Appointments' },
  { to: '/sales/partners', name: 'Partners' },
];
const CATALOG = [
  { to: '/catalog', name: 'Products', end: true, also: /^\/catalog\/(new|prd_)/ },
  { to: '/catalog/codes', name: 'Discount codes' },
  { to: '/catalog/calculator', name: 'Calculator' },
];
const SETTINGS = [
  { to: '/settings', name: 'Shop and brand', end: true },
  { to: '/settings/tax', name: 'Tax rates' },
  { to: '/settings/shipping', name: 'Shipping' },
  { to: '/settings/domains', name: 'Domains' },
  { to: '/settings/legal', name: 'Legal pages' },
  { to: '/settings/consent', name: 'Consent' },
  { to: '/settings/go-live', name: 'Test and live mode' },
  { to: '/settings/backups', name: 'Backups' },
  { to: '/settings/account', name: 'Your account' },
];

export const router = createBrowserRouter([
  { path: '/reset', lazy: async () => ({ Component: (await import('../team/ResetPassword')).ResetPassword }) },
  { path: '/funnels/:funnelId/preview/:stepId', lazy: async () => ({ Component: (await import('../page/PreviewTab')).PreviewTab }) },
  {
    element: <Shell />,
    children: [
      { path: '/', element: <TodayPage /> },
      { path: '/funnels', lazy: async () => ({ Component: (await import('../funnel/FunnelsPage')).FunnelsPage }) },
      { path: '/funnels/new', lazy: async () => ({ Component: (await import('../templates/NewFunnelPage')).NewFunnelPage }) },
      {
        path: '/funnels/:funnelId',
        lazy: async () => ({ Component: (await import('../funnel/Workspace')).Workspace }),
        children: [
          { index: true, element: <Navigate to="map" replace /> },
          // With or without a stop it is the same map, which stays as it is drawn.
          { path: 'map/:stepId?', lazy: async () => ({ Component: (await import('../map/MapView')).MapView }) },
          { path: 'offer/:stepId', lazy: async () => ({ Component: (await import('../offers/OfferView')).OfferView }) },
          { path: 'results/forecast', lazy: async () => ({ Component: (await import('../forecast/ForecastView')).ForecastView }) },
          { path: 'results/:by?', lazy: async () => ({ Component: (await import('../insight/FunnelResults')).FunnelResults }) },
          { path: 'publications', lazy: async () => ({ Component: (await import('../funnel/PublicationsView')).PublicationsView }) },
          { path: 'page/:stepId', lazy: async () => ({ Component: (await import('../page/PageEditor')).PageEditor }) },
        ],
      },
      {
        path: '/catalog',
        element: <TabsLayout label="Catalog" tabs={CATALOG} />,
        children: [
          { index: true, lazy: async () => ({ Component: (await import('../catalog/CatalogPage')).CatalogPage }) },
          { path: 'codes', lazy: async () => ({ Component: (await import('../codes/CodesPage')).CodesPage }) },
          { path: 'calculator', lazy: async () => ({ Component: (await import('../pricing/CalculatorPage')).CalculatorPage }) },
          { path: 'new', lazy: async () => ({ Component: (await import('../catalog/ProductPage')).ProductPage }) },
          { path: ':productId', lazy: async () => ({ Component: (await import('../catalog/ProductPage')).ProductPage }) },
        ],
      },
      {
        path: '/sales',
        element: <TabsLayout label="Sales" tabs={SALES} />,
        children: [
          { index: true, element: <Navigate to="orders" replace /> },
          { path: 'orders', lazy: async () => ({ Component: (await import('../orders/OrdersPage')).OrdersPage }) },
          { path: 'orders/:orderId', lazy: async () => ({ Component: (await import('../orders/OrderPage')).OrderPage }) },
          { path: 'contacts', lazy: async () => ({ Component: (await import('../contacts/ContactsPage')).ContactsPage }) },
          { path: 'appointments', lazy: async () => ({ Component: (await import('../contacts/AppointmentsPage')).AppointmentsPage }) },
          { path: 'carts', lazy: async () => ({ Component: (await import('../carts/CartsPage')).CartsPage }) },
          { path: 'partners', lazy: async () => ({ Component: (await import('../partners/PartnersPage')).PartnersPage }) },
          { path: 'partners/:partnerId', lazy: async () => ({ Component: (await import('../partners/PartnerPage')).PartnerPage }) },
          { path: 'contacts/:contactId', lazy: async () => ({ Component: (await import('../contacts/ContactPage')).ContactPage }) },
        ],
      },
      { path: '/insight/:by?', lazy: async () => ({ Component: (await import('../insight/InsightPage')).InsightPage }) },
      { path: '/experiments', lazy: async () => ({ Component: (await import('../experiments/ExperimentsPage')).ExperimentsPage }) },
      { path: '/experiments/:experimentId', lazy: async () => ({ Component: (await import('../experiments/ExperimentPage')).ExperimentPage }) },
      { path: '/connections', lazy: async () => ({ Component: (await import('../connections/ConnectionsPage')).ConnectionsPage }) },
      {
        path: '/settings',
        element: <TabsLayout label="Settings" tabs={SETTINGS} />,
        children: [
          { index: true, lazy: async () => ({ Component: (await import('../shop/SettingsPage')).SettingsPage }) },
          { path: 'tax', lazy: async () => ({ Component: (await import('../shop/TaxPage')).TaxPage }) },
          { path: 'shipping', lazy: async () => ({ Component: (await import('../shop/ShippingPage')).ShippingPage }) },
          { path: 'backups', lazy: async () => ({ Component: (await import('../backups/BackupsPage')).BackupsPage }) },
          { path: 'domains', lazy: async () => ({ Component: (await import('../domains/DomainsPage')).DomainsPage }) },
          { path: 'account', lazy: async () => ({ Component: (await import('../team/AccountPage')).AccountPage }) },
          { path: 'go-live', lazy: async () => ({ Component: (await import('../shop/GoLivePage')).GoLivePage }) },
          { path: 'legal', lazy: async () => ({ Component: (await import('../shop/LegalPage')).LegalPage }) },
          { path: 'consent', lazy: async () => ({ Component: (await import('../shop/ConsentPage')).ConsentPage }) },
        ],
      },
      { path: '*', element: <NotHere /> },
    ],
  },
]);
