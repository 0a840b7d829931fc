package exchange

import (
	"time"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/studio/books"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/clients"
	"softpalm/internal/studio/diary"
	"softpalm/internal/studio/house"
	"softpalm/internal/studio/protocols"
	"softpalm/internal/studio/shelf"
	"softpalm/internal/studio/treatment"
)

// Files gathers the readers and writers for those who are handed one thing.
type Files struct{}

// FormatOf is [FormatOf].
func (Files) FormatOf(data []byte) string { return FormatOf(data) }

// ReadBundle is [ReadBundle].
func (Files) ReadBundle(data []byte) (*house.Bundle, error) { return ReadBundle(data) }

// ReadProtocol is [ReadProtocolFile].
func (Files) ReadProtocol(data []byte) (*protocols.ProtocolFile, error) {
	return ReadProtocolFile(data)
}

// ReadLibrary is [ReadLibraryFile].
func (Files) ReadLibrary(data []byte) (*protocols.LibraryFile, error) { return ReadLibraryFile(data) }

// Write is [Write].
func (Files) Write(file any) ([]byte, error) { return Write(file) }

// ProtocolCard is [ProtocolCard].
func (Files) ProtocolCard(
	p *protocol.Protocol,
	e *evaluation.Evaluation,
	ctx *protocol.Context,
	studio, version, size string,
	at time.Time,
) ([]byte, error) {
	return ProtocolCard(p, e, ctx, studio, version, size, at)
}

// WallCard is [WallCard].
func (Files) WallCard(p *protocol.Protocol, e *evaluation.Evaluation, studio, version string, at time.Time) ([]byte, error) {
	return WallCard(p, e, studio, version, at)
}

// OrderCSV is [OrderCSV].
func (Files) OrderCSV(o *shelf.PurchaseOrder) ([]byte, error) { return OrderCSV(o) }

// LedgerCSV is [LedgerCSV].
func (Files) LedgerCSV(m *books.Month) ([]byte, error) { return LedgerCSV(m) }

// AccountsCSV is [AccountsCSV].
func (Files) AccountsCSV(m *books.Month) ([]byte, error) { return AccountsCSV(m) }

// MonthPaper is [MonthPaper].
func (Files) MonthPaper(m *books.Month, at time.Time) ([]byte, error) { return MonthPaper(m, at) }

// ReceiptPaper is [ReceiptPaper].
func (Files) ReceiptPaper(r *books.Receipt, at time.Time) ([]byte, error) {
	return ReceiptPaper(r, at)
}

// SeriesPaper is [SeriesPaper].
func (Files) SeriesPaper(list []books.Strip, studio, address string, at time.Time) ([]byte, error) {
	return SeriesPaper(list, studio, address, at)
}

// VoucherPaper is [VoucherPaper].
func (Files) VoucherPaper(v *books.VoucherToGive, at time.Time) ([]byte, error) {
	return VoucherPaper(v, at)
}

// OrderPaper is [OrderPaper].
func (Files) OrderPaper(o *shelf.PurchaseOrder, studio, address string, at time.Time) ([]byte, error) {
	return OrderPaper(o, studio, address, at)
}

// BatchLabel is [BatchLabel].
func (Files) BatchLabel(b *shelf.Batch, studio string, at time.Time) ([]byte, error) {
	return BatchLabel(b, studio, at)
}

// RecallPaper is [RecallPaper].
func (Files) RecallPaper(t *shelf.LotTrace, names bool, studio string, at time.Time) ([]byte, error) {
	return RecallPaper(t, names, studio, at)
}

// ReactionPaper is [ReactionPaper].
func (Files) ReactionPaper(r *treatment.ReactionReport, studio string, zone *time.Location, at time.Time) ([]byte, error) {
	return ReactionPaper(r, studio, zone, at)
}

// RecordPaper is [RecordPaper].
func (Files) RecordPaper(r *treatment.RecordView, studio string, zone *time.Location, at time.Time) ([]byte, error) {
	return RecordPaper(r, studio, zone, at)
}

// OpenedSticker is [OpenedSticker].
func (Files) OpenedSticker(l *shelf.Label, studio string, at time.Time) ([]byte, error) {
	return OpenedSticker(l, studio, at)
}

// RecallCSV is [RecallCSV].
func (Files) RecallCSV(t *shelf.LotTrace) ([]byte, error) { return RecallCSV(t) }

// RecallLetters is [RecallLetters].
func (Files) RecallLetters(t *shelf.LotTrace, studio, address string, at time.Time) ([]byte, error) {
	return RecallLetters(t, studio, address, at)
}

// SetUpPaper is [SetUpPaper].
func (Files) SetUpPaper(list []diary.PractitionerSetUp, studio string, at time.Time) ([]byte, error) {
	return SetUpPaper(list, studio, at)
}

// StepsCSV is [StepsCSV].
func (Files) StepsCSV(p *protocol.Protocol, e *evaluation.Evaluation) ([]byte, error) {
	return StepsCSV(p, e)
}

// LetterPaper is [LetterPaper].
func (Files) LetterPaper(p *checks.Paper, at time.Time) ([]byte, error) { return LetterPaper(p, at) }

// SummaryPaper is [SummaryPaper].
func (Files) SummaryPaper(p *checks.Paper, at time.Time) ([]byte, error) { return SummaryPaper(p, at) }

// ClientPaper is [ClientPaper].
func (Files) ClientPaper(f *clients.ClientExport, at time.Time) ([]byte, error) {
	return ClientPaper(f, at)
}
