import { createBrowserRouter, Navigate } from 'react-router';
import { CatalogPage } from '../catalog/CatalogPage';
import { ProductPage } from '../catalog/ProductPage';
import { ConnectionsPage } from '../connections/ConnectionsPage';
import { FunnelsPage } from '../funnels/FunnelsPage';
import { NewFunnelPage } from '../funnels/NewFunnelPage';
import { Workspace } from '../funnels/Workspace';
import { ContactPage } from '../sales/ContactPage';
import { ContactsPage } from '../sales/ContactsPage';
import { OrderPage } from '../sales/OrderPage';
import { OrdersPage } from '../sales/OrdersPage';
import { SalesLayout } from '../sales/SalesLayout';
import { SettingsPage } from '../settings/SettingsPage';
import { TodayPage } from '../today/TodayPage';
import { NotHere } from './NotHere';
import { Shell } from './Shell';

export const router = createBrowserRouter([
  {
    element: <Shell />,
    children: [
      { path: '/', element: <TodayPage /> },
      { path: '/funnels', element: <FunnelsPage /> },
      { path: '/funnels/new', element: <NewFunnelPage /> },
      {
        path: '/funnels/:funnelId',
        element: <Workspace />,
        children: [
          { index: true, element: <Navigate to="map" replace /> },
          { path: 'map', lazy: async () => ({ Component: (await import('../map/MapView')).MapView }) },
          { path: 'page/:stepId', lazy: async () => ({ Component: (await import('../page/PageEditor')).PageEditor }) },
        ],
      },
      { path: '/catalog', element: <CatalogPage /> },
      { path: '/catalog/new', element: <ProductPage /> },
      { path: '/catalog/:productId', element: <ProductPage /> },
      {
        path: '/sales',
        element: <SalesLayout />,
        children: [
          { index: true, element: <Navigate to="orders" replace /> },
          { path: 'orders', element: <OrdersPage /> },
          { path: 'orders/:orderId', element: <OrderPage /> },
          { path: 'contacts', element: <ContactsPage /> },
          { path: 'contacts/:contactId', element: <ContactPage /> },
        ],
      },
      { path: '/connections', element: <ConnectionsPage /> },
      { path: '/settings', element: <SettingsPage /> },
      { path: '*', element: <NotHere /> },
    ],
  },
]);
