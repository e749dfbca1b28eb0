import { createSlice } from '@reduxjs/toolkit';

/** Whether the server still knows the person; what stands on the page is kept meanwhile. */
export const sessionSlice = createSlice({
  name: 'session',
  initialState: { state: 'known' as 'known' | 'ended' },
  reducers: {
    sessionEnded: (session) => {
      session.state = 'ended';
    },
    sessionBegun: (session) => {
      session.state = 'known';
    },
  },
});

export const { sessionEnded, sessionBegun } = sessionSlice.actions;
