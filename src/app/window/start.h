#pragma once

class QApplication;

namespace prism::app {

/// Names the application, gives it its looks, and leaves numbers to be read and written as files have them:
/// the toolkit takes the person's locale, but libraries read files by the C library's numbers.
void prepare(QApplication& app);

} // namespace prism::app
