// The form of the customer's sheet, with a picture of it beside it that follows what is typed.
#pragma once

#include "app/cards/card.h"
#include "app/session/mailbox.h"
#include "app/session/newest_worker.h"
#include "app/window/file_row.h"
#include "app/window/page.h"
#include "formats/proof.h"

namespace frelm {

class ProofFormPage : public Page {
  Q_OBJECT

public:
  ProofFormPage(Session& session, ProofForm form, const QString& path, QWidget* over);
  const ProofForm& form() const { return form_; }
  QString path() const { return file_->path(); }
  QLabel* picture() { return picture_; }

signals:
  void wanted_out(); // with form() and path()

protected:
  QSize wanted() const override;
  void resizeEvent(QResizeEvent* event) override;

private:
  void draw();

  Session& session_;
  ProofForm form_;
  QLabel* picture_;
  FileRow* file_;
  Mailbox mailbox_;
  NewestWorker worker_; // the last member: its thread ends before what it uses
};

} // namespace frelm
