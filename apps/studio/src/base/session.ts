import { createSlice } from '@reduxjs/toolkit';

/** Whether the sign-in of this window has ended while somebody worked in it. */
export const sessionSlice = createSlice({
  name: 'session',
  initialState: { ended: false },
  reducers: {
    sessionEnded: (state) => {
      state.ended = true;
    },
    sessionRenewed: (state) => {
      state.ended = false;
    },
  },
});
export const { sessionEnded, sessionRenewed } = sessionSlice.actions;
