/** Where a file that a student brought to an attempt is. */
export const filePath = (attemptId: string, fileId: string) => `/api/attempts/${attemptId}/files/${fileId}`;

/** Where a picture of an attempt's quiz is. */
export const picturePath = (attemptId: string, pictureId: string) =>
  `/api/attempts/${attemptId}/pictures/${pictureId}`;
