import { createBrowserRouter, Navigate } from 'react-router';
import { FunnelsPage } from '../funnels/FunnelsPage';
import { Workspace } from '../funnels/Workspace';
import { SalesLayout } from '../sales/SalesLayout';
import { TodayPage } from '../today/TodayPage';
import { NotHere } from './NotHere';
import { Shell } from './Shell';

export const router = createBrowserRouter([
  {
    element: <Shell />,
    children: [
      { path: '/', element: <TodayPage /> },
      { path: '/funnels', element: <FunnelsPage /> },
      { path: '/funnels/new', lazy: async () => ({ Component: (await import('../funnels/NewFunnelPage')).NewFunnelPage }) },
      {
        path: '/funnels/:funnelId',
        element: <Workspace />,
        children: [
          { index: true, element: <Navigate to="map" replace /> },
          { path: 'map', lazy: async () => ({ Component: (await import('../map/MapView')).MapView }) },
          { path: 'page/:stepId', lazy: async () => ({ Component: (await import('../page/PageEditor')).PageEditor }) },
        ],
      },
      { path: '/catalog', lazy: async () => ({ Component: (await import('../catalog/CatalogPage')).CatalogPage }) },
      { path: '/catalog/new', lazy: async () => ({ Component: (await import('../catalog/ProductPage')).ProductPage }) },
      { path: '/catalog/:productId', lazy: async () => ({ Component: (await import('../catalog/ProductPage')).ProductPage }) },
      {
        path: '/sales',
        element: <SalesLayout />,
        children: [
          { index: true, element: <Navigate to="orders" replace /> },
          { path: 'orders', lazy: async () => ({ Component: (await import('../sales/OrdersPage')).OrdersPage }) },
          { path: 'orders/:orderId', lazy: async () => ({ Component: (await import('../sales/OrderPage')).OrderPage }) },
          { path: 'contacts', lazy: async () => ({ Component: (await import('../sales/ContactsPage')).ContactsPage }) },
          { path: 'contacts/:contactId', lazy: async () => ({ Component: (await import('../sales/ContactPage')).ContactPage }) },
        ],
      },
      { path: '/connections', lazy: async () => ({ Component: (await import('../connections/ConnectionsPage')).ConnectionsPage }) },
      { path: '/settings', lazy: async () => ({ Component: (await import('../settings/SettingsPage')).SettingsPage }) },
      { path: '*', element: <NotHere /> },
    ],
  },
]);
